/** Said where nobody answers: asked again, the server may. */
export const away = 'The server does not answer. Try again in a moment.'

/** Said where what was under way ended before its end. */
export const cut = 'The connection was lost. Try again in a moment.'
