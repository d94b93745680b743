import Joi from 'joi'
import { type ChangeInput, id, longestLine } from '../../input'
import type { RenameFile } from './rename-file'

export const renameFile: ChangeInput<RenameFile> = {
  fields: {
    fileId: id,
    label: Joi.string().required().max(longestLine),
    was: Joi.string().required(),
  },
}
