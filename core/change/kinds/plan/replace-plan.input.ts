import Joi from 'joi'
import { pageDetails } from '#core/plan'
import { type ChangeInput, id, longestLine, mostPages, newPages, place } from '../../input'
import type { PlanEdit } from './plan-edit'
import type { ReplacePlan } from './replace-plan'

const list = (fields: Joi.SchemaMap) => Joi.array().items(Joi.object(fields)).max(mostPages).required()
const value = Joi.alternatives(Joi.boolean(), Joi.string().max(longestLine).allow('')).required().allow(null)

export const replacePlan: ChangeInput<ReplacePlan, PlanEdit> = {
  outerLevels: 1,
  fields: {
    added: list({ ...place, pages: newPages }),
    moved: list({
      pageId: id,
      ...place,
      was: Joi.object({ parentId: id.allow(null), order: Joi.string().max(500).required() }).required(),
    }),
    changed: list({
      pageId: id,
      field: Joi.valid('label', 'trial', 'inMenus', ...pageDetails).required(),
      value,
      was: value,
    }),
    removed: list({ pageId: id, was: Joi.string().max(20).required() }),
  },
  make: async (request, keep) => ({ ...request, content: (await keep('')).hash }),
}
