import { type ChangeInput, ids } from '../../input'
import type { ReleaseNames } from './release-names'

export const releaseNames: ChangeInput<ReleaseNames> = { fields: { pageIds: ids } }
