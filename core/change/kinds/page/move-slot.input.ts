import { type ChangeInput, hash, id, slot } from '../../input'
import type { MoveSlot } from './move-slot'

export const moveSlot: ChangeInput<MoveSlot> = {
  fields: { pageId: id, from: slot.required(), to: slot.required(), was: hash },
}
