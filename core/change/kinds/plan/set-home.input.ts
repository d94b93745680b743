import { type ChangeInput, id } from '../../input'
import type { SetHome } from './set-home'

export const setHome: ChangeInput<SetHome> = { fields: { pageId: id, was: id } }
