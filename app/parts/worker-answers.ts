/**
 * What a worker is told. What its answers rest on is sent when it changes; a question, for each word that
 * is chosen or typed.
 */
export type ToWorker<Ground, Question> =
  | { readonly kind: 'ground'; readonly ground: Ground }
  | { readonly kind: 'question'; readonly question: Question }

/** The worker's side of `useWorker`: answers each question on the latest ground. */
export function answerQuestions<Ground, Question, Answer>(
  answer: (ground: Ground, question: Question) => Answer,
): void {
  let latest: Ground
  addEventListener('message', ({ data }: MessageEvent<ToWorker<Ground, Question>>) => {
    if (data.kind === 'ground') latest = data.ground
    else postMessage(answer(latest, data.question))
  })
}
