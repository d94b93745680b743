import { type ChangeInput, ids } from '../../input'
import type { RemovePages } from './remove-pages'

export const removePages: ChangeInput<RemovePages> = { fields: { pageIds: ids } }
