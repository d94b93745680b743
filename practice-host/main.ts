import { startPracticeHost } from './host'

const folder = process.env.PRACTICE_FOLDER
if (!folder) throw new Error('PRACTICE_FOLDER names the folder in which the practice host keeps its files.')
const port = (name: string, otherwise: number) => Number.parseInt(process.env[name] ?? '', 10) || otherwise

const host = await startPracticeHost({
  folder,
  sftpPort: port('PRACTICE_SFTP_PORT', 4622),
  webPort: port('PRACTICE_WEB_PORT', 4680),
  ftpPort: port('PRACTICE_FTP_PORT', 4621),
  ftpsPort: port('PRACTICE_FTPS_PORT', 4690),
  mailPort: port('PRACTICE_MAIL_PORT', 4625),
})
console.log(`practice host ready: SFTP ${host.sftpPort}, http://127.0.0.1:${host.webPort}/`)
for (const signal of ['SIGTERM', 'SIGINT'] as const)
  process.once(signal, () => void host.close().then(() => process.exit(0)))
// Started with a channel to its parent, it ends when the parent is gone, however that ended.
process.once('disconnect', () => void host.close().then(() => process.exit(0)))
