import { nameLabel } from '#core/naming'
import { defaultScheme } from '#core/site'

/** A folder at a host and the address that shows it. */
export interface ShownFolder {
  readonly folder: string
  readonly publicAddress: string
}

/** A folder for another site below one that is known, with its address. */
export function ownFolder({ folder, publicAddress }: ShownFolder, siteName: string): ShownFolder {
  const own = nameLabel(siteName, defaultScheme, 'en').name || 'site'
  return {
    folder: [folder, own].filter((part) => part !== '').join('/'),
    publicAddress: `${publicAddress}${own}/`,
  }
}
