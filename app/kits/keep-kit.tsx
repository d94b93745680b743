import { Popover } from 'radix-ui'
import { useState } from 'react'
import { ask } from '../parts/ask'
import { useSite } from '../document/site-context'
import { asJson } from '../document/post'
import { Button } from '../parts/button'
import { PopoverFrame } from '../parts/popover-frame'


/** Keeps scheme, templates and styles of this site for the next one. */
export function KeepKit() {
  const { site, save } = useSite()
  const [open, setOpen] = useState(false)
  const [name, setName] = useState('')
  const [about, setAbout] = useState('')
  const [told, setTold] = useState<{ readonly kept?: string; readonly problem?: string }>({})
  const [isBusy, setBusy] = useState(false)
  // What is typed and not sent yet belongs into it.
  const isSaved = save.kind === 'saved'

  async function keep() {
    setBusy(true)
    setTold({})
    const body = JSON.stringify({ name, about })
    const answer = await ask(`/sites/${site.id}/kit`, { method: 'POST', headers: asJson, body })
    setTold('problem' in answer ? { problem: answer.problem.message } : { kept: name.trim() })
    if (!('problem' in answer)) setName('')
    setBusy(false)
  }
  return (
    <Popover.Root
      open={open}
      onOpenChange={(next) => {
        setOpen(next)
        setTold({})
      }}
    >
      <Popover.Trigger className="link text-sm whitespace-nowrap">Keep as a kit</Popover.Trigger>
      <PopoverFrame label="Keep as a kit" align="end" className="w-96 bg-paper">
          <form
            className="grid gap-3"
            onSubmit={(event) => {
              event.preventDefault()
              if (name.trim() !== '') void keep()
            }}
          >
            <p className="font-serif text-[17px] leading-[1.5]">
              Naming scheme, templates and style sheets, for your next site. Pages stay here.
            </p>
            <label className="block text-sm text-quiet">
              The kit is called
              <input
                className="field text-[15px] text-ink"
                value={name}
                maxLength={100}
                required
                onChange={(event) => setName(event.target.value)}
              />
            </label>
            <label className="block text-sm text-quiet">
              What it is good for
              <textarea
                className="field text-[15px] text-ink"
                rows={2}
                value={about}
                maxLength={500}
                onChange={(event) => setAbout(event.target.value)}
              />
            </label>
            {told.problem && (
              <p role="alert" className="text-sm text-rubric">
                {told.problem}
              </p>
            )}
            <div className="flex items-baseline gap-4">
              <Button type="submit" className="!py-1" disabled={isBusy || !isSaved || name.trim() === ''}>
                {isBusy ? 'Keeping it…' : isSaved ? 'Keep it' : 'Saving first…'}
              </Button>
              {told.kept && (
                <p role="status" className="text-sm">
                  “{told.kept}” is kept.{' '}
                  <a className="link" href="/kits">
                    See your kits
                  </a>
                </p>
              )}
            </div>
          </form>
        </PopoverFrame>
    </Popover.Root>
  )
}
