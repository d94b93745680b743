import { randomBytes } from 'node:crypto'
import fs from 'node:fs/promises'
import type net from 'node:net'
import type { AddressInfo } from 'node:net'
import path from 'node:path'
import { generate } from 'selfsigned'
import ssh2 from 'ssh2'
import { Accounts, practiceAccount } from './accounts'
import { Faults } from './faults'
import { createFtpServer } from './ftp'
import { createSftpServer } from './sftp'
import { createMailServer, Letterbox } from './mail'
import { createWebServer } from './web'

/** Where the practice host keeps its things and listens; port 0 picks a free one. */
export interface PracticeHostOptions {
  /** Holds `space/` (what an account sees as `/`), the host key and the password. */
  readonly folder: string
  readonly sftpPort: number
  readonly webPort: number
  /** FTP, with TLS where it is asked for. */
  readonly ftpPort?: number
  /** FTP with TLS from the first byte. */
  readonly ftpsPort?: number
  /** SMTP, whose letters go nowhere. */
  readonly mailPort?: number
}

/** A running practice host. */
export interface PracticeHost {
  readonly sftpPort: number
  readonly webPort: number
  readonly ftpPort: number
  readonly ftpsPort: number
  readonly mailPort: number
  readonly letterbox: Letterbox
  readonly account: string
  readonly password: string
  /** Folder of the account that the public address shows. */
  readonly publicFolder: string
  /** The same folder on disk. */
  readonly publicPath: string
  readonly faults: Faults
  close(): Promise<void>
}

const publicFolder = 'public'

const placeholder = `<!DOCTYPE html>
<html lang="en">
  <head>
    <meta charset="utf-8">
    <title>This web space is ready</title>
  </head>
  <body>
    <h1>This web space is ready</h1>
    <p>The practice host put this page here. Upload a home page and it will stand in its place.</p>
  </body>
</html>
`

async function keep(file: string, make: () => string | Promise<string>): Promise<string> {
  const kept = await fs.readFile(file, 'utf8').catch(() => null)
  if (kept) return kept
  const made = await make()
  await fs.writeFile(file, made, { mode: 0o600 })
  return made
}

/** An Ed25519 key in OpenSSH's format. About 3 of 1,000 that the library makes it cannot read itself: those are made again. */
function makeHostKey(): string {
  for (;;) {
    const { private: key } = ssh2.utils.generateKeyPairSync('ed25519')
    if (!(ssh2.utils.parseKey(key) instanceof Error)) return key
  }
}

/** A key and a certificate that nobody signed but itself, kept between starts. */
async function keepCertificate(folder: string): Promise<{ key: string; cert: string }> {
  const made = await keep(path.join(folder, 'certificate.json'), async () => {
    const { private: key, cert } = await generate([{ name: 'commonName', value: 'practice.example' }])
    return JSON.stringify({ key, cert })
  })
  return JSON.parse(made) as { key: string; cert: string }
}

/** Starts SFTP, FTP and HTTP on loopback over one folder; all doors are open when this resolves. */
export async function startPracticeHost(options: PracticeHostOptions): Promise<PracticeHost> {
  const space = path.join(options.folder, 'space')
  const publicPath = path.join(space, publicFolder)
  const fresh = !(await fs.stat(publicPath).catch(() => null))
  await fs.mkdir(publicPath, { recursive: true })
  if (fresh) await fs.writeFile(path.join(publicPath, 'index.html'), placeholder)
  const hostKey = await keep(path.join(options.folder, 'host_key'), makeHostKey)
  const password = await keep(path.join(options.folder, 'password'), () =>
    randomBytes(12).toString('base64url'),
  )

  const faults = new Faults()
  const accounts = new Accounts(options.folder, password)
  const sftp = createSftpServer({ accounts, hostKey, faults })
  const letterbox = new Letterbox()
  const mail = createMailServer(letterbox)
  const web = createWebServer(accounts, letterbox, faults)
  const certificate = await keepCertificate(options.folder)
  const door = { accounts, ...certificate, faults }
  const [ftp, ftps] = [createFtpServer(door), createFtpServer(door, true)]
  const listen = (server: net.Server, port: number) =>
    new Promise<number>((resolve, reject) => {
      server.once('error', reject)
      server.listen(port, '127.0.0.1', () => resolve((server.address() as AddressInfo).port))
    })
  const sftpPort = await listen(sftp as unknown as net.Server, options.sftpPort)
  const webPort = await listen(web, options.webPort)
  const ftpPort = await listen(ftp, options.ftpPort ?? 0)
  const ftpsPort = await listen(ftps, options.ftpsPort ?? 0)
  const mailPort = await listen(mail.server, options.mailPort ?? 0)
  return {
    sftpPort,
    webPort,
    ftpPort,
    ftpsPort,
    mailPort,
    letterbox,
    account: practiceAccount,
    password,
    publicFolder,
    publicPath,
    faults,
    async close() {
      faults.cut()
      web.closeAllConnections()
      await Promise.all([
        new Promise<void>((resolve) => mail.close(() => resolve())),
        new Promise((resolve) => sftp.close(resolve)),
        ...[web, ftp, ftps].map((server) => new Promise((resolve) => server.close(resolve))),
      ])
    },
  }
}
