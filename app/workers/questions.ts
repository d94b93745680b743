/**
 * What a worker is told. What its answers rest on is sent when it changes; a question, for each word that
 * is chosen or typed.
 */
export type ToWorker<Ground, Question> =
  | { readonly kind: 'ground'; readonly ground: Ground }
  | { readonly kind: 'question'; readonly question: Question }

export type Answering<Ground, Question, Answer> = (
  ground: Ground,
  question: Question,
) => Answer | Promise<Answer>

/** What is worked out beside the interface, each fetched when it is asked for first. */
export const answers = {
  names: () => import('../names/names.answer').then((module) => module.namesUnder),
  'plan-file': () => import('../parts/picks/plan-file.answer').then((module) => module.planOfFile),
  plan: () => import('../plan/plan.answer').then((module) => module.planTypedOver),
  faults: () => import('../parts/editor/faults.answer').then((module) => module.faultsTyped),
  document: () => import('../files/document.answer').then((module) => module.pageRead),
  picture: () => import('../files/picture.answer').then((module) => module.pictureShown),
  said: () => import('../writing/original/said.answer').then((module) => module.saidByTexts),
  'new-site': () => import('../new-site/new-site.answer').then((module) => module.siteOfPlan),
} as const

export type Task = keyof typeof answers
export type AnswererOf<T extends Task> = Awaited<ReturnType<(typeof answers)[T]>>
