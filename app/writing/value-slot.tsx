import { type Page, slotOf } from '#core/site'
import { useWrittenText } from '../document/use-written-text'
import { WrittenTextFrame } from '../parts/editor/written-text'

/** What a page holds in a slot that its template says as a value: plain text on a line. */
export function ValueSlot({ page, slot }: { page: Page; slot: string }) {
  const written = useWrittenText({ kind: 'content', id: page.id, slot }, slotOf(page, slot))
  const { write } = written
  return (
    <WrittenTextFrame written={written}>
      <div className="p-5">
        <label className="block max-w-130">
          {`${slot} of ${page.label}`}
          <input
            className="field font-mono text-[14px]"
            value={written.text}
            readOnly={write === null}
            spellCheck={false}
            onChange={(event) => write?.(event.target.value)}
          />
        </label>
        <p className="mt-2 max-w-130 text-sm text-quiet">
          Its template says this where it has <code className="font-mono">{`{slot.${slot}}`}</code>: plain
          text, such as a class for style sheets. An attribute that says nothing else is left out where it is
          empty.
        </p>
      </div>
    </WrittenTextFrame>
  )
}
