import { type ChangeInput, ids, place } from '../../input'
import type { MovePages } from './move-pages'

export const movePages: ChangeInput<MovePages> = { fields: { ...place, pageIds: ids } }
