import deepEqual from 'fast-deep-equal'
import { useMemo, useState } from 'react'
import { type HostKind, hostKinds, remarksOfHost, schemeForOldest } from '#core/naming'
import type { Scheme } from '#core/site'
import { useSite } from '../document/site-context'
import { count } from '../parts/format'
import { LongList } from '../parts/long-list'
import { Pick } from '../parts/picks/pick'
import { StateMark } from '../parts/state-mark'

interface Props {
  readonly scheme: Scheme
  readonly onPropose: (scheme: Scheme) => void
}

/** What a kind of host would make of the site's names. */
export function HostsRemarks({ scheme, onPropose }: Props) {
  const { site } = useSite()
  const [kind, setKind] = useState<HostKind>('case-folded')
  const remarks = useMemo(() => remarksOfHost({ ...site, scheme }, kind), [site, scheme, kind])
  const fitting = kind === 'oldest' ? schemeForOldest(scheme) : scheme
  return (
    <section aria-label="What hosts make of it" className="mt-6">
      <h3 className="mb-1 text-[19px]">What hosts make of it</h3>
      <p className="mb-1 font-serif text-[18px] leading-[1.9]">
        On a host with{' '}
        <Pick
          label="Kind of host"
          value={kind}
          options={(Object.keys(hostKinds) as HostKind[]).map((value) => ({
            value,
            words: hostKinds[value].name,
            hint: hostKinds[value].hint,
          }))}
          onPick={setKind}
        />
        {remarks.length === 0
          ? ', all names are safe.'
          : `, ${count(new Set(remarks.map(({ path }) => path)).size, 'name')} would not come out as written.`}{' '}
        {!deepEqual(fitting, scheme) && (
          <button type="button" className="link font-sans text-sm" onClick={() => onPropose(fitting)}>
            Fit the scheme to such hosts
          </button>
        )}
      </p>
      {remarks.length === 0 ? (
        <StateMark state="done" word="nothing to remark" />
      ) : (
        <LongList
          label="Names that would not come out as written"
          count={remarks.length}
          rowHeight={28}
          className="max-h-96 text-sm"
        >
          {(index) => {
            const { path, text } = remarks[index]!
            return (
              <p className="truncate" title={`${path} ${text}.`}>
                <span className="font-mono text-[13px]">{path}</span>{' '}
                <span className="text-quiet">{text}.</span>
              </p>
            )
          }}
        </LongList>
      )}
    </section>
  )
}
