import { Popover } from 'radix-ui'
import { useState } from 'react'
import { Button } from '../parts/button'
import { PopoverFrame } from '../parts/popover-frame'

const times = { 15: '15 minutes', 60: 'an hour', 1440: 'a day' } as const

/** The local time as a field for it takes it, some minutes from now. */
function soon(minutes: number): string {
  const at = new Date(Date.now() + minutes * 60_000)
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16)
}

/** When the site goes out without anybody's pressing a button: at a set time, or whenever it has come to rest. */
export function When({
  toSend,
  byItselfMinutes,
  onSendAt,
  onByItself,
}: {
  toSend: number
  byItselfMinutes: number | null
  onSendAt: (at: Date) => void
  onByItself: (minutes: number | null) => void
}) {
  const [open, setOpen] = useState(false)
  const [at, setAt] = useState('')
  const [problem, setProblem] = useState<string | null>(null)
  return (
    <Popover.Root
      open={open}
      onOpenChange={(next) => {
        setOpen(next)
        setProblem(null)
        if (next) setAt(soon(60))
      }}
    >
      <Popover.Trigger className="rounded-[5px] border border-rule px-3.5 py-2 font-medium hover:bg-paper">
        {byItselfMinutes === null ? 'When…' : 'By itself…'}
      </Popover.Trigger>
      <PopoverFrame label="When the site is sent" side="top" className="w-[26rem] bg-paper">
        <form
          className="grid gap-2"
          onSubmit={(event) => {
            event.preventDefault()
            const when = new Date(at)
            if (Number.isNaN(when.getTime()) || when.getTime() < Date.now())
              return setProblem('Choose a time that is still to come.')
            setOpen(false)
            onSendAt(when)
          }}
        >
          <label className="block">
            <span className="text-quiet">Send it as it is now, at</span>
            <input
              className="field"
              type="datetime-local"
              required
              value={at}
              onChange={(event) => setAt(event.target.value)}
            />
          </label>
          {problem && (
            <p role="alert" className="text-rubric">
              {problem}
            </p>
          )}
          <span>
            <Button type="submit" disabled={toSend === 0}>
              Send it then
            </Button>
          </span>
        </form>
        <label className="mt-4 block border-t border-rule pt-3">
          <span className="text-quiet">Send it by itself when nothing has changed for</span>
          <select
            className="field"
            value={byItselfMinutes ?? ''}
            onChange={(event) => onByItself(event.target.value === '' ? null : Number(event.target.value))}
          >
            <option value="">never: only when I send it</option>
            {Object.entries(times).map(([minutes, words]) => (
              <option key={minutes} value={minutes}>
                {words}
              </option>
            ))}
          </select>
          <span className="mt-1 block text-sm text-quiet">
            Only while Checks finds nothing that visitors would stumble over; what somebody changed there is
            left as it is.
          </span>
        </label>
      </PopoverFrame>
    </Popover.Root>
  )
}
