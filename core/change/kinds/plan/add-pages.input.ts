import { type ChangeInput, newPages, place } from '../../input'
import type { AddPages } from './add-pages'

export const addPages: ChangeInput<AddPages, Omit<AddPages, 'content'>> = {
  fields: { ...place, pages: newPages },
  make: async (request, keep) => ({ ...request, content: (await keep('')).hash }),
}
