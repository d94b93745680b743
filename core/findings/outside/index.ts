import type { About } from '../rule'

/** What following addresses outside can tell; it is asked for, and never done by itself. */
export const followedRules: readonly About[] = [
  {
    id: 'outside-gone',
    grade: 'breaks',
    title: 'Addresses outside that are gone',
    why: 'A visitor who follows one meets “not found” on somebody else’s site.',
  },
  {
    id: 'outside-silent',
    grade: 'hinders',
    title: 'Addresses outside that do not answer',
    why: 'It may be for an hour, or for good: follow it again before you take it away.',
  },
  {
    id: 'outside-moved',
    grade: 'detail',
    title: 'Addresses outside that have moved',
    why: 'The old address leads on for now; one day it will not.',
  },
]
