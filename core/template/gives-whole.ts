import type { CompiledTemplate } from './compiled'

/** Whether a template has nothing of its own around a slot, so that pages are whole documents as they are written. */
export const givesOutWhole = ({ parts }: Pick<CompiledTemplate, 'parts'>): boolean =>
  parts.every((part) => part.kind === 'slot' || (part.kind === 'text' && part.text.trim() === ''))
