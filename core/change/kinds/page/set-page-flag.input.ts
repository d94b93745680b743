import Joi from 'joi'
import { type ChangeInput, ids } from '../../input'
import type { SetPageFlag } from './set-page-flag'

export const setPageFlag: ChangeInput<SetPageFlag> = {
  fields: {
    pageIds: ids,
    flag: Joi.valid('trial', 'inMenus', 'dated', 'titleAlone').required(),
    value: Joi.boolean().required(),
  },
}
