import { useMemo } from 'react'
import { mainSlot } from '#core/site'
import { Difference } from '../../parts/difference/difference'
import { hunksOf } from '../../parts/difference/hunks'
import type { ChangedText } from './use-changed-original'

/** What of a text was changed since it was translated. */
export default function ChangedInText({ text: { slot, was, now } }: { text: ChangedText }) {
  const hunks = useMemo(() => hunksOf(was, now), [was, now])
  return (
    <>
      {slot !== mainSlot && <h3 className="px-7 pt-3 text-[17px]">In “{slot}”</h3>}
      <Difference
        label={slot === mainSlot ? 'What changed' : `What changed in ${slot}`}
        hunks={hunks}
        sides={['then', 'now']}
        alike="as then"
      />
    </>
  )
}
