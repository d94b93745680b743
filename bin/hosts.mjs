// npm run check:hosts: the contract of transports and whole deliveries against the servers that web hosts run, from Debian's
// packages: OpenSSH, vsftpd and nginx over one folder of an account that is made for it and removed again. Needs root.
import { execFileSync } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { ensureNodeModules, ensurePackage } from './lib/install.mjs'
import { freePort, run } from './lib/run.mjs'
import { Advice, main, say } from './lib/say.mjs'
import { startOwnServices } from './lib/services.mjs'

process.chdir(new URL('..', import.meta.url).pathname)

const account = 'rubricant-check'

await main(async () => {
  if (process.getuid?.() !== 0)
    throw new Advice(
      'npm run check:hosts makes an account and starts servers: run it as root, where nothing else runs.',
    )
  await ensureNodeModules()
  for (const [name, program] of [
    ['openssh-server', '/usr/sbin/sshd'],
    ['vsftpd', '/usr/sbin/vsftpd'],
    ['nginx-light', '/usr/sbin/nginx'],
    ['openssl', '/usr/bin/openssl'],
  ])
    await ensurePackage(
      name,
      () => fs.existsSync(program),
      `${name} is what hosts run, and is not installed.`,
    )
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'rubricant-hosts-'))
  fs.chmodSync(folder, 0o755)
  const password = randomBytes(12).toString('hex')
  const home = path.join(folder, 'home')
  const children = []
  /** Starts a server that stays in front, ended with everything. */
  const serve = (program, args) => {
    const child = run(program, args, {}).catch(() => {})
    children.push({ program, args, child })
  }
  const endAll = () => {
    for (const pidFile of ['sshd.pid', 'nginx.pid']) end(path.join(folder, pidFile))
    for (const pid of vsftpds()) process.kill(pid, 'SIGKILL')
    try {
      execFileSync('userdel', [account], { stdio: 'ignore' })
    } catch {
      // It was not made.
    }
    fs.rmSync(folder, { recursive: true, force: true })
  }
  const end = (file) => {
    try {
      process.kill(Number(fs.readFileSync(file, 'utf8')), 'SIGTERM')
    } catch {
      // It has not started, or has ended.
    }
  }
  const vsftpds = () =>
    execFileSync('ps', ['-eo', 'pid,args'], { encoding: 'utf8' })
      .split('\n')
      .filter((line) => line.includes(`vsftpd ${folder}`) || line.includes(`vsftpd: ${folder}`))
      .map((line) => Number.parseInt(line, 10))
  const services = await startOwnServices('test')
  try {
    fs.mkdirSync(path.join(home, 'public'), { recursive: true })
    execFileSync('useradd', ['--home-dir', home, '--shell', '/bin/bash', '--no-create-home', account])
    execFileSync('chpasswd', { input: `${account}:${password}\n` })
    execFileSync('chown', ['-R', `${account}:${account}`, home])
    // Visitors are served by another account than the one that sends.
    for (let at = home; at !== os.tmpdir() && at !== '/'; at = path.dirname(at)) fs.chmodSync(at, 0o755)
    const ports = { sftp: await freePort(), ftps: await freePort(), 'ftps-implicit': await freePort() }
    ports.ftp = ports.ftps
    const webPort = await freePort()
    const write = (name, text) => {
      const file = path.join(folder, name)
      fs.writeFileSync(file, text, { mode: 0o600 })
      return file
    }
    execFileSync('ssh-keygen', ['-q', '-t', 'ed25519', '-N', '', '-f', path.join(folder, 'host_key')])
    execFileSync(
      'openssl',
      ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-subj', '/CN=hosts.example', '-days', '2']
        .concat(['-keyout', path.join(folder, 'tls.key'), '-out', path.join(folder, 'tls.crt')]),
      { stdio: 'ignore' },
    ) // prettier-ignore
    fs.mkdirSync('/run/sshd', { recursive: true })
    serve('/usr/sbin/sshd', ['-D', '-e', '-f', write('sshd.conf', `
Port ${ports.sftp}
ListenAddress 127.0.0.1
HostKey ${folder}/host_key
PidFile ${folder}/sshd.pid
PasswordAuthentication yes
UsePAM yes
MaxStartups 100
Subsystem sftp internal-sftp
AllowUsers ${account}
`)]) // prettier-ignore
    fs.mkdirSync('/var/run/vsftpd/empty', { recursive: true })
    const ftp = (port, more) => `
listen=YES
listen_address=127.0.0.1
listen_port=${port}
local_enable=YES
write_enable=YES
# As it comes: what is made is for the account alone until it is opened to visitors.
local_umask=077
anonymous_enable=NO
background=NO
seccomp_sandbox=NO
allow_writeable_chroot=YES
secure_chroot_dir=/var/run/vsftpd/empty
pam_service_name=vsftpd
utf8_filesystem=YES
ssl_enable=YES
force_local_logins_ssl=NO
force_local_data_ssl=NO
require_ssl_reuse=YES
ssl_ciphers=HIGH
rsa_cert_file=${folder}/tls.crt
rsa_private_key_file=${folder}/tls.key
max_per_ip=0
${more}
`
    serve('/usr/sbin/vsftpd', [write('vsftpd.conf', ftp(ports.ftps, ''))])
    serve('/usr/sbin/vsftpd', [
      write('vsftpd-implicit.conf', ftp(ports['ftps-implicit'], 'implicit_ssl=YES')),
    ])
    serve('/usr/sbin/nginx', ['-c', write('nginx.conf', `
user www-data;
daemon off;
pid ${folder}/nginx.pid;
error_log ${folder}/nginx.log;
events {}
http {
  include /etc/nginx/mime.types;
  access_log off;
  client_body_temp_path ${folder}/nginx-body; proxy_temp_path ${folder}/nginx-proxy; fastcgi_temp_path ${folder}/nginx-fastcgi;
  server { listen 127.0.0.1:${webPort}; root ${home}/public; charset utf-8; }
}
`)]) // prettier-ignore
    say(
      `OpenSSH at ${ports.sftp}, vsftpd at ${ports.ftps} and ${ports['ftps-implicit']}, nginx at ${webPort}`,
    )
    await new Promise((resolve) => setTimeout(resolve, 1_500))
    await run('node', ['--experimental-vm-modules', '--disable-warning=ExperimentalWarning', 'node_modules/jest/bin/jest.js', '--selectProjects', 'hosts', '--verbose', ...process.argv.slice(2)], {
      show: true,
      env: {
        ...process.env,
        ...services.env,
        LOG_LEVEL: 'silent',
        RUBRICANT_PRIVATE_HOSTS: 'true',
        REAL_HOSTS: JSON.stringify({ account, password, home, webPort, ports }),
      },
    }) // prettier-ignore
  } finally {
    endAll()
    await services.stop()
  }
})
