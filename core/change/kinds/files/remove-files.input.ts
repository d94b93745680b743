import { type ChangeInput, ids } from '../../input'
import type { RemoveFiles } from './remove-files'

export const removeFiles: ChangeInput<RemoveFiles> = { fields: { fileIds: ids } }
