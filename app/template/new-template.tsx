import { Popover } from 'radix-ui'
import { useState } from 'react'
import type { Template } from '#core/site'
import { useSite } from '../document/site-context'
import { fetchText } from '../document/use-text'
import { Button } from '../parts/button'
import { Pick } from '../parts/picks/pick'
import { PopoverFrame } from '../parts/popover-frame'

type Start = 'based' | 'copy' | 'bare'

/** A whole document with nothing in it but what every page needs. */
const bareTemplate = `<!DOCTYPE html>
<html lang="{language}">
  <head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title>{title}</title>
  </head>
  <body>
    <main>
      <h1>{page}</h1>
      <slot name="content"></slot>
    </main>
  </body>
</html>
`
/** What a template that is based on another starts with. */
const fillingTemplate = `<template slot="content">
  <slot name="content"></slot>
</template>
`

/** The way to a further template: what it is called and what it starts from. */
export function NewTemplate({ from, onMade }: { from: Template; onMade: (templateId: string) => void }) {
  const { site, store } = useSite()
  const [open, setOpen] = useState(false)
  const [name, setName] = useState('')
  const [start, setStart] = useState<Start>('based')
  const [problem, setProblem] = useState<string | null>(null)
  const isTaken = site.templates.some((one) => one.name === name.trim())

  async function make() {
    setProblem(null)
    try {
      const text =
        start === 'based'
          ? fillingTemplate
          : start === 'bare'
            ? bareTemplate
            : await fetchText(site.id, from.source)
      const templateId = crypto.randomUUID()
      const basedOn = start === 'based' ? from.id : start === 'copy' ? from.basedOn : null
      const made = store.change({ kind: 'addTemplate', templateId, name: name.trim(), text, basedOn })
      if (!('saved' in made) || !(await made.saved)) return
      setOpen(false)
      setName('')
      onMade(templateId)
    } catch {
      setProblem('The template could not be fetched: the server does not answer. Try again in a moment.')
    }
  }
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="link text-sm whitespace-nowrap">New template</Popover.Trigger>
      <PopoverFrame label="New template" align="end" className="w-96 bg-paper">
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault()
            if (name.trim() !== '' && !isTaken) void make()
          }}
        >
          <label className="block text-sm text-quiet">
            What it is called
            <input
              className="field text-[15px] text-ink"
              value={name}
              maxLength={100}
              placeholder="Article"
              onChange={(event) => setName(event.target.value)}
            />
          </label>
          <p className="font-serif text-[17px] leading-[1.8]">
            It{' '}
            <Pick<Start>
              label="What it starts from"
              value={start}
              options={[
                {
                  value: 'based',
                  words: `is based on “${from.name}”`,
                  hint: 'It fills that template’s slots; what changes there changes here',
                },
                { value: 'copy', words: `starts as a copy of “${from.name}”` },
                { value: 'bare', words: 'is a bare document' },
              ]}
              onPick={setStart}
              after="."
            />
          </p>
          {(isTaken || problem !== null) && (
            <p role="alert" className="text-sm text-rubric">
              {problem ?? 'There is a template of this name.'}
            </p>
          )}
          <div>
            <Button type="submit" className="!py-1" disabled={name.trim() === '' || isTaken}>
              Make it
            </Button>
          </div>
        </form>
      </PopoverFrame>
    </Popover.Root>
  )
}
