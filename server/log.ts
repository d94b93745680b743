import pino from 'pino'

/** Structured logs on standard output. Paths that could hold a secret are struck out wherever they stand. */
export const log = pino({
  level: process.env.LOG_LEVEL ?? 'info',
  base: null,
  redact: {
    paths: [
      'password',
      '*.password',
      'passwordSealed',
      '*.passwordSealed',
      'cookie',
      'headers.cookie',
      'headers.authorization',
      'token',
      '*.token',
    ],
    censor: '(hidden)',
  },
})
