import { type ChangeInput, ids } from '../../input'
import type { ConfirmTranslations } from './confirm-translations'

export const confirmTranslations: ChangeInput<ConfirmTranslations> = { fields: { pageIds: ids } }
