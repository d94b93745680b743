import Joi from 'joi'
import type { ChangeInput } from '../../input'
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
    value: Joi.string()
      .required()
      .allow('')
      .max(300)
      // A tag as of BCP 47, as far as its shape goes.
      .when('field', { is: 'language', then: Joi.string().pattern(/^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$/) }),
    was: Joi.string().required().allow(''),
  },
}
