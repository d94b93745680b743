import type { About } from '../rule'

/** What is looked for in finished pages, when it is asked for. */
export const builtRules: readonly About[] = [
  {
    id: 'built-accessibility-grave',
    grade: 'hinders',
    title: 'What keeps people out, on finished pages',
    why: 'Who uses a screen reader, a keyboard or larger letters cannot use the page, or only with trouble.',
  },
  {
    id: 'built-colours',
    grade: 'hinders',
    title: 'Text that is hard to read, on finished pages',
    why: 'Who sees less well, or reads in the sun, cannot tell the letters from what is behind them.',
  },
  {
    id: 'built-markup',
    grade: 'hinders',
    title: 'What the standard does not allow, on finished pages',
    why: 'Elements stand where none may stand, or lack what they need; each browser makes something else of it.',
  },
  {
    id: 'built-accessibility',
    grade: 'detail',
    title: 'What makes it harder for some, on finished pages',
    why: 'It can be used, and is harder than it has to be.',
  },
]
