import { hkdfSync } from 'node:crypto'
import { closeSync, openSync, readFileSync, readSync } from 'node:fs'
import Joi from 'joi'
import type { OutgoingRules } from './outgoing'

/** What the server is told by its environment; read and checked once, at start. */
export interface Config {
  readonly port: number
  /** The address it listens at; loopback alone, unless something in front of it is elsewhere. */
  readonly address: string
  /** Where its figures are shown; null for nowhere. */
  readonly figuresPort: number | null
  /** How long it goes on taking requests once it is asked to end, so that whoever passes them on notices. */
  readonly noticeMs: number
  readonly databaseUrl: string
  /** Keys for one purpose each, derived from the one the environment names (HKDF, RFC 5869). */
  readonly keys: { readonly sealing: Buffer; readonly signing: Buffer }
  /** The key itself: what was sealed before purposes had keys of their own is opened with it. */
  readonly key: Buffer
  /** Public addresses under which the application is reached; requests for any other host are refused. */
  readonly origins: readonly string[]
  /** Proxies in front whose word on the visitor's address and on TLS is taken. */
  readonly trustedProxies: number
  /** Deliveries that this process works on at the same time. */
  readonly deliveriesAtOnce: number
  /**
   * Who may make an account: anybody at once, anybody whose e-mail address a letter has reached, or nobody but whom
   * the one who runs the server gives a link.
   */
  readonly signUp: 'open' | 'confirmed' | 'closed'
  /** Whether everybody has to have a second step of signing in; else it is each account's choice. */
  readonly isSecondStepNeeded: boolean
  /** Accounts that may be made from one origin in an hour. */
  readonly signUpsAnHour: number
  readonly classSignUpsAnHour: number
  /** What one account may have. */
  readonly perAccount: {
    readonly mostSites: number
    /** Pages of all its sites. */
    readonly mostPages: number
    /** Files of all its sites. */
    readonly mostBytes: number
    /** Requests of all its windows in a minute, of each process. */
    readonly requestsAMinute: number
  }
  /** Where outgoing connections may lead. */
  readonly outgoing: OutgoingRules
  /** The practice host that the demo site is delivered to, and the demo account's switch. */
  readonly demo: {
    readonly sftpPort: number
    readonly publicAddress: string
    readonly account: string
    readonly password: string
  } | null
  /** The mail server that letters are handed to; null where none is set. */
  readonly mail: { readonly url: string; readonly from: string } | null
  /** How often a stream of events shows that it lives, and looks whether its session does. */
  readonly heartbeatMs: number
  /** Where a program listens that looks files through before they are taken; null where none does. */
  readonly scanner: { readonly path: string } | { readonly host: string; readonly port: number } | null
  /** A file of SHA-1 of passwords that were stolen, sorted, a line each; null for none. */
  readonly breachedPasswords: string | null
  readonly logLevel: string
  /** Whether browsers are told that names below this host's are reached over TLS alone, too. */
  readonly hstsSubdomains: boolean
  /** Whether cookies are marked Secure: true behind TLS. */
  readonly secureCookies: boolean
}

/** A socket of this machine, or a port somewhere, as `host:port`. */
function scannerAt(at: string): NonNullable<Config['scanner']> {
  if (at.startsWith('/')) return { path: at }
  const [, bracketed, plain, port] = /^(?:\[([\da-f:.]+)\]|([\w.-]+)):(\d{1,5})$/i.exec(at) ?? []
  if (port === undefined || Number(port) > 65_535) throw new Error('neither a socket nor a port of a host')
  return { host: (bracketed ?? plain)!, port: Number(port) }
}

/** A file that begins as one of SHA-1 in hexadecimal does. */
function passwordsAt(path: string): string {
  const file = openSync(path, 'r')
  try {
    const begin = Buffer.alloc(41)
    const length = readSync(file, begin, 0, begin.length, 0)
    if (!/^[\da-f]{40}(?:[:\s]|$)/i.test(begin.toString('latin1', 0, length)))
      throw new Error('no SHA-1 at its beginning')
    return path
  } finally {
    closeSync(file)
  }
}

const schema = Joi.object({
  PORT: Joi.number().port().default(4600),
  RUBRICANT_LISTEN: Joi.string().ip({ cidr: 'forbidden' }).default('127.0.0.1'),
  RUBRICANT_METRICS_PORT: Joi.number().port().empty(''),
  RUBRICANT_NOTICE: Joi.number().min(0).max(60).default(0),
  DATABASE_URL: Joi.string()
    .uri({ scheme: ['postgres', 'postgresql'] })
    .required(),
  RUBRICANT_KEY: Joi.string().base64().length(44).required(),
  RUBRICANT_DEMO: Joi.boolean().default(false),
  RUBRICANT_ORIGIN: Joi.string()
    .custom((text: string) => {
      for (const one of text.split(/[\s,]+/))
        if (!/^https?:$/.test(new URL(one).protocol) || new URL(one).origin !== one.replace(/\/$/, ''))
          throw new Error('not an origin')
      return text
    }, 'origins')
    .empty(''),
  RUBRICANT_PROXIES: Joi.number().integer().min(0).max(10).default(0),
  RUBRICANT_DELIVERIES: Joi.number().integer().min(1).max(64).default(4),
  RUBRICANT_ACCOUNTS: Joi.valid('open', 'confirmed', 'closed').empty(''),
  RUBRICANT_SECOND_STEP: Joi.valid('chosen', 'needed').default('chosen'),
  RUBRICANT_HSTS: Joi.valid('host', 'subdomains').default('host'),
  RUBRICANT_SIGN_UPS: Joi.number().integer().min(0).default(20),
  RUBRICANT_CLASS_SIGN_UPS: Joi.number().integer().min(0).default(200),
  RUBRICANT_MOST_SITES: Joi.number().integer().min(1).default(500),
  RUBRICANT_MOST_PAGES: Joi.number().integer().min(1).default(200_000),
  RUBRICANT_REQUESTS: Joi.number().integer().min(60).default(3_000),
  RUBRICANT_MOST_GIGABYTES: Joi.number().greater(0).default(10),
  RUBRICANT_PRIVATE_HOSTS: Joi.boolean().default(false),
  RUBRICANT_HEARTBEAT: Joi.number().min(1).max(60).default(20),
  RUBRICANT_SMTP: Joi.string()
    .uri({ scheme: ['smtp', 'smtps'] })
    .empty(''),
  RUBRICANT_MAIL_FROM: Joi.string().max(300).default('Rubricant <rubricant@localhost>'),
  RUBRICANT_SCANNER: Joi.string().max(300).custom(scannerAt, 'place').empty(''),
  RUBRICANT_BREACHED_PASSWORDS: Joi.string().max(1_000).custom(passwordsAt, 'hashes').empty(''),
  LOG_LEVEL: Joi.string().valid('fatal', 'error', 'warn', 'info', 'debug', 'trace', 'silent').default('info'),
  PRACTICE_SFTP_PORT: Joi.number().port().default(4622),
  PRACTICE_WEB_PORT: Joi.number().port().default(4680),
  PRACTICE_FTP_PORT: Joi.number().port().default(4621),
  PRACTICE_FTPS_PORT: Joi.number().port().default(4690),
  PRACTICE_ACCOUNT: Joi.string().default('keeper'),
  PRACTICE_PASSWORD: Joi.string().when('RUBRICANT_DEMO', { is: true, then: Joi.required() }),
}).unknown()

/** Reads the configuration; throws one error that names everything wrong with it. */
export function readConfig(environment: NodeJS.ProcessEnv): Config {
  const { error, value } = schema.validate(withSecretsOfFiles(environment), {
    abortEarly: false,
    convert: true,
  })
  if (error) {
    // Joi's message holds the names and the rules, never a secret's value.
    const problems = error.details.map((detail) => detail.message.replace(/ with value .*/, '')).join('; ')
    throw new Error(`The server's environment is not complete: ${problems}`)
  }
  if (value.RUBRICANT_ACCOUNTS === 'confirmed' && !value.RUBRICANT_SMTP)
    throw new Error(
      'The server’s environment is not complete: RUBRICANT_ACCOUNTS is “confirmed”, which needs RUBRICANT_SMTP',
    )
  const key = Buffer.from(value.RUBRICANT_KEY, 'base64')
  const origins: string[] = value.RUBRICANT_ORIGIN
    ? String(value.RUBRICANT_ORIGIN)
        .split(/[\s,]+/)
        .map((one) => new URL(one).origin)
    : [`http://127.0.0.1:${value.PORT}`, `http://localhost:${value.PORT}`]
  return {
    port: value.PORT,
    address: value.RUBRICANT_LISTEN,
    figuresPort: value.RUBRICANT_METRICS_PORT ?? null,
    noticeMs: value.RUBRICANT_NOTICE * 1_000,
    databaseUrl: value.DATABASE_URL,
    key,
    keys: { sealing: keyFor(key, 'sealing'), signing: keyFor(key, 'signing') },
    origins,
    trustedProxies: value.RUBRICANT_PROXIES,
    deliveriesAtOnce: value.RUBRICANT_DELIVERIES,
    // The practice host shows its letters to anybody, so they confirm nothing there.
    signUp:
      value.RUBRICANT_ACCOUNTS ?? (value.RUBRICANT_SMTP && !value.RUBRICANT_DEMO ? 'confirmed' : 'open'),
    isSecondStepNeeded: value.RUBRICANT_SECOND_STEP === 'needed',
    signUpsAnHour: value.RUBRICANT_SIGN_UPS,
    classSignUpsAnHour: value.RUBRICANT_CLASS_SIGN_UPS,
    hstsSubdomains: value.RUBRICANT_HSTS === 'subdomains',
    perAccount: {
      mostSites: value.RUBRICANT_MOST_SITES,
      mostPages: value.RUBRICANT_MOST_PAGES,
      requestsAMinute: value.RUBRICANT_REQUESTS,
      mostBytes: value.RUBRICANT_MOST_GIGABYTES * 1e9,
    },
    outgoing: {
      privateRanges: value.RUBRICANT_PRIVATE_HOSTS,
      // Of all that is inside, the practice host of the demo alone is let through.
      allowed: value.RUBRICANT_DEMO
        ? [
            value.PRACTICE_SFTP_PORT,
            value.PRACTICE_WEB_PORT,
            value.PRACTICE_FTP_PORT,
            value.PRACTICE_FTPS_PORT,
          ].map((port: number) => ({ host: '127.0.0.1', port }))
        : [],
    },
    demo: value.RUBRICANT_DEMO
      ? {
          sftpPort: value.PRACTICE_SFTP_PORT,
          publicAddress: `http://127.0.0.1:${value.PRACTICE_WEB_PORT}/`,
          account: value.PRACTICE_ACCOUNT,
          password: value.PRACTICE_PASSWORD,
        }
      : null,
    mail: value.RUBRICANT_SMTP ? { url: value.RUBRICANT_SMTP, from: value.RUBRICANT_MAIL_FROM } : null,
    scanner: value.RUBRICANT_SCANNER ?? null,
    breachedPasswords: value.RUBRICANT_BREACHED_PASSWORDS ?? null,
    heartbeatMs: value.RUBRICANT_HEARTBEAT * 1_000,
    logLevel: value.LOG_LEVEL,
    secureCookies: origins.every((origin) => origin.startsWith('https:')),
  }
}

/** Settings that are secrets, or hold one: each may be a file, whose name `<setting>_FILE` says. */
const secretSettings = ['DATABASE_URL', 'RUBRICANT_KEY', 'RUBRICANT_OLD_KEY', 'RUBRICANT_SMTP'] as const

/**
 * An environment in which secrets that are kept in files, as vaults and service managers hand them over, are what is in
 * those. A setting itself goes before its file.
 * @throws Error that names the setting of a file which cannot be read
 */
export function withSecretsOfFiles(environment: NodeJS.ProcessEnv): NodeJS.ProcessEnv {
  const all = { ...environment }
  for (const name of secretSettings) {
    const file = environment[`${name}_FILE`]
    if (!file || environment[name]) continue
    try {
      all[name] = readFileSync(file, 'utf8').trim()
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException
      throw new Error(`The server's environment is not complete: ${name}_FILE cannot be read (${code})`)
    }
  }
  return all
}

/** A key for one purpose (HKDF, RFC 5869). */
export const keyFor = (key: Buffer, purpose: string): Buffer =>
  Buffer.from(hkdfSync('sha256', key, 'rubricant', purpose, 32))

let current: Config | null = null

/** The configuration of this process. */
export function config(): Config {
  return (current ??= readConfig(process.env))
}

/** Lets it be read anew: suites that run one after another in a process have one each. */
export function forgetConfig(): void {
  current = null
}
