import { type ChangeInput, id } from '../../input'
import type { RemoveFile } from './remove-file'

export const removeFile: ChangeInput<RemoveFile> = { fields: { fileId: id } }
