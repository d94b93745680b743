import { type ChangeInput, id } from '../../input'
import type { RemoveTemplate } from './remove-template'

export const removeTemplate: ChangeInput<RemoveTemplate> = { fields: { templateId: id } }
