import { type Client, FTPError, type FTPResponse } from 'basic-ftp'

/** What a host says to a command; an error where that begins with 4 or 5 (RFC 959 §4.2). */
export type FtpReply = FTPResponse | FTPError

/**
 * Sends several commands at once and hears their replies in turn: one wait instead of one each, which is most of the
 * time where a host is far away (RFC 2920 calls it pipelining, for SMTP). RFC 959 §5.4 wants a dialogue, and nearly every
 * server reads line by line all the same; whether this one does is tried first, by `takesTogether`.
 * @param onReply called with each reply as it comes
 * @throws what ends the connection; a refusal is one of the replies
 */
export function sendTogether(
  { ftp }: Client,
  commands: readonly string[],
  onReply?: (reply: FtpReply, nth: number) => void,
): Promise<FtpReply[]> {
  const replies: FtpReply[] = []
  const done = ftp.handle(undefined, (reply: FtpReply | Error, task) => {
    // 421 closes the connection, whatever was still to be answered.
    if (reply instanceof Error && (!(reply instanceof FTPError) || reply.code === 421))
      return task.reject(reply)
    replies.push(reply)
    onReply?.(reply, replies.length - 1)
    if (replies.length === commands.length) task.resolve(replies)
  }) as Promise<FtpReply[]>
  ftp.socket.cork()
  try {
    for (const command of commands) ftp.send(command)
  } finally {
    ftp.socket.uncork()
  }
  return done
}

/**
 * Whether a host does what comes at once, one after the other. Where it drops what follows the first, the connection is of
 * no more use.
 * @param patienceMs how long the second answer may take after the first
 */
export function takesTogether(client: Client, patienceMs: number): Promise<boolean> {
  return new Promise((resolve, reject) => {
    let timer: NodeJS.Timeout | undefined
    const heard = () => (timer ??= setTimeout(() => resolve(false), patienceMs))
    sendTogether(client, ['NOOP', 'NOOP'], heard)
      .then(() => resolve(true), reject)
      .finally(() => clearTimeout(timer))
  })
}
