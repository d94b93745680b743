import { Link } from 'react-router'
import { isProtocol, protocols, sayTraits } from '#core/delivery'
import type { Destination } from '#server/deliveries'
import { useSite } from '../document/site-context'
import { Caution } from '../parts/notice'
import type { ShownComparison } from './there/comparison.server'

/** Where a destination is, and what its host was found to do otherwise than most. */
export function PlaceLine({
  destination,
  tooLong,
}: {
  destination: Omit<Destination, 'siteId'>
  tooLong: ShownComparison['tooLong']
}) {
  const { protocol, host, port, folder, publicAddress, traits } = destination
  const { site } = useSite()
  const odd = sayTraits(traits)
  return (
    <>
      <p className="mb-1 text-quiet">
        {isProtocol(protocol) ? protocols[protocol].title : ''} to{' '}
        <span className="font-mono text-[13px]">
          {host}:{port}
        </span>
        , folder <span className="font-mono text-[13px]">{folder || '(the account’s own)'}</span>, shown at{' '}
        <a className="link font-mono text-[13px]" href={publicAddress} target="_blank" rel="noreferrer">
          {publicAddress}
        </a>
      </p>
      {odd.length > 0 && (
        <p className="mb-1 text-quiet">
          This host {odd.slice(0, -1).join(', ')}
          {odd.length > 1 && ', and '}
          {odd.at(-1)}.
        </p>
      )}
      {traits.showsHome === false && site.output.links === 'folders' && (
        <Caution className="my-3">
          Links of this site name folders, for which this host shows no home page. Have them name files in{' '}
          <Link className="link" to={`/sites/${site.id}/template`}>
            Template
          </Link>
          , and send it again.
        </Caution>
      )}
      {tooLong.count > 0 && (
        <Caution className="my-3">
          <span className="font-mono text-[13px] break-all">{tooLong.first}</span>
          {tooLong.count > 1 && ` and ${tooLong.count - 1} more`}{' '}
          {tooLong.count > 1 ? 'have names' : 'has a name'} of more than {traits.longestName} letters, which
          this host does not take: sending would stop there. Shorter names are given in{' '}
          <Link className="link" to={`/sites/${site.id}/names`}>
            Names
          </Link>
          .
        </Caution>
      )}
    </>
  )
}
