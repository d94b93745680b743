import Joi from 'joi'
import { type ChangeInput, language } from '../../input'
import type { SetSetting } from './set-setting'

/** A setting, in UTF-16 code units. */
export const longestSetting = 300

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
    value: Joi.string()
      .required()
      .allow('')
      .max(longestSetting)
      .when('field', { is: 'language', then: language }),
    was: Joi.string().required().allow(''),
  },
}
