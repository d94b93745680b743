/** Said where nobody answers: asked again, the server may. */
export const away = 'The server does not answer. Try again in a moment.'

/** Whether the server answers anything at all: what fails although it does has another reason than the line. */
export const isAnswered = (signal?: AbortSignal): Promise<boolean> =>
  fetch('/health/live', { signal, cache: 'no-store' }).then(
    () => true,
    () => false,
  )

/** Said where what was under way ended before its end. */
export const cut = 'The connection was lost. Try again in a moment.'
