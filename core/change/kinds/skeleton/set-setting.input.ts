import Joi from 'joi'
import { type ChangeInput, language } from '../../input'
import type { SetSetting } from './set-setting'

export const setSetting: ChangeInput<SetSetting> = {
  fields: {
    field: Joi.valid(
      'name',
      'language',
      'titlePattern',
      'homeTitlePattern',
      'publicAddress',
      'templateId',
    ).required(),
    value: Joi.string().required().allow('').max(300).when('field', { is: 'language', then: language }),
    was: Joi.string().required().allow(''),
  },
}
