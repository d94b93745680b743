import { createTransport, type Transporter } from 'nodemailer'
import { config, log } from '#server/platform'

/** A letter in plain text. */
export interface Letter {
  readonly to: string
  readonly subject: string
  readonly text: string
}

/** The way to a mail server, under the address of it. */
const transports = new Map<string, Transporter>()

/** Whether this server can send letters at all. */
export const sendsMail = (): boolean => config().mail !== null

/** Hands a letter to the mail server of the settings. @throws whatever that says */
export async function sendLetter({ to, subject, text }: Letter): Promise<void> {
  const { mail } = config()
  if (!mail) throw new Error('No mail server is set (RUBRICANT_SMTP)')
  const transport =
    transports.get(mail.url) ??
    createTransport({ url: mail.url, connectionTimeout: 10_000, socketTimeout: 20_000 })
  transports.set(mail.url, transport)
  await transport.sendMail({
    from: mail.from,
    // As one address, never as a list that a name could hold.
    to: { name: '', address: to },
    subject,
    text,
    disableFileAccess: true,
    disableUrlAccess: true,
  })
}

/** The same without being waited for: how long it takes would tell whether there was anybody to write to. */
export function sendLetterSoon(letter: Letter): void {
  sendLetter(letter).catch((error: unknown) => log.error({ err: error }, 'a letter that could not be sent'))
}
