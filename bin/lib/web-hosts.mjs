// The servers that web hosts run, over one folder of one account: OpenSSH, vsftpd, ProFTPD and Pure-FTPd for who sends, nginx for
// who visits. Each listens on loopback and ends with `stop`.
import { execFileSync, spawn } from 'node:child_process'
import fs from 'node:fs'
import path from 'node:path'
import { ensurePackage } from './install.mjs'
import { freePort } from './run.mjs'

const packages = [
  ['openssh-server', '/usr/sbin/sshd'],
  ['vsftpd', '/usr/sbin/vsftpd'],
  ['nginx-light', '/usr/sbin/nginx'],
  ['openssl', '/usr/bin/openssl'],
]
/** Debian lets one FTP server be installed at a time: these are unpacked beside it, with what they are linked to. */
const unpacked = [
  'proftpd-core', 'proftpd-mod-crypto', 'libhiredis0.14', 'libmemcached11', 'libmemcachedutil2', 'libhashkit2', 'libpcre2-posix3', 'pure-ftpd',
] // prettier-ignore

/**
 * Starts them all.
 * @param folder holds what they need, and is the caller's to remove
 * @param home what the account sees as its own
 * @returns the places that can be sent to, the port of the web server, and what ends them
 */
export async function startWebHosts({ folder, home, account }) {
  for (const [name, program] of packages)
    await ensurePackage(
      name,
      () => fs.existsSync(program),
      `${name} is what hosts run, and is not installed.`,
    )
  const { file: programOf, env } = unpack(path.join(folder, 'unpacked'))
  const write = (name, text) => {
    const file = path.join(folder, name)
    fs.writeFileSync(file, text, { mode: 0o600 })
    return file
  }
  const serve = (program, args, more = {}) =>
    spawn(program, args, { stdio: 'ignore', ...more }).on('error', () => {})
  const pidFiles = []
  const pidFile = (name) => {
    pidFiles.push(path.join(folder, `${name}.pid`))
    return pidFiles.at(-1)
  }
  const places = []
  const place = async (server, protocols) => {
    const port = await freePort()
    for (const protocol of protocols) places.push({ name: `${protocol}-${server}`, protocol, port })
    return port
  }

  execFileSync('ssh-keygen', ['-q', '-t', 'ed25519', '-N', '', '-f', path.join(folder, 'host_key')])
  const [key, certificate] = [path.join(folder, 'tls.key'), path.join(folder, 'tls.crt')]
  execFileSync(
    'openssl',
    ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-subj', '/CN=hosts.example', '-days', '2', '-keyout', key, '-out', certificate],
    { stdio: 'ignore' },
  ) // prettier-ignore

  fs.mkdirSync('/run/sshd', { recursive: true })
  serve('/usr/sbin/sshd', ['-D', '-e', '-f', write('sshd.conf', `
Port ${await place('openssh', ['sftp'])}
ListenAddress 127.0.0.1
HostKey ${folder}/host_key
PidFile ${pidFile('sshd')}
PasswordAuthentication yes
UsePAM yes
MaxStartups 100
Subsystem sftp internal-sftp
AllowUsers ${account}
`)]) // prettier-ignore

  fs.mkdirSync('/var/run/vsftpd/empty', { recursive: true })
  const vsftpd = (port, more) => `
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
rsa_cert_file=${certificate}
rsa_private_key_file=${key}
max_per_ip=0
${more}
`
  serve('/usr/sbin/vsftpd', [write('vsftpd.conf', vsftpd(await place('vsftpd', ['ftps', 'ftp']), ''))])
  const implicitPort = await place('vsftpd', ['ftps-implicit'])
  serve('/usr/sbin/vsftpd', [write('vsftpd-implicit.conf', vsftpd(implicitPort, 'implicit_ssl=YES'))])

  serve(programOf('usr/sbin/proftpd'), ['-n', '-c', write('proftpd.conf', `
ModulePath ${programOf('usr/lib/proftpd')}
LoadModule mod_tls.c
ServerType standalone
ServerName hosts.example
DefaultAddress 127.0.0.1
UseIPv6 off
Port ${await place('proftpd', ['ftps', 'ftp'])}
User nobody
Group nogroup
PidFile ${pidFile('proftpd')}
ScoreboardFile ${folder}/proftpd.scores
DelayTable none
SystemLog none
WtmpLog off
AuthOrder mod_auth_unix.c
Umask 077 077
DefaultRoot ~
AllowOverwrite on
MaxInstances 60
TLSEngine on
TLSRSACertificateFile ${certificate}
TLSRSACertificateKeyFile ${key}
TLSRequired off
`)], { env }) // prettier-ignore

  const both = write('both.pem', fs.readFileSync(key, 'utf8') + fs.readFileSync(certificate, 'utf8'))
  serve(
    programOf('usr/sbin/pure-ftpd'),
    ['-S', `127.0.0.1,${await place('pure-ftpd', ['ftps', 'ftp'])}`, '-l', 'unix', '-Y', '1', '-2', both]
      .concat(['-g', pidFile('pure-ftpd'), '-U', '177:077', '-A', '-E', '-c', '60', '-C', '30']),
    { env },
  ) // prettier-ignore

  const webPort = await freePort()
  serve('/usr/sbin/nginx', ['-c', write('nginx.conf', `
user www-data;
daemon off;
pid ${pidFile('nginx')};
error_log ${folder}/nginx.log;
events {}
http {
  include /etc/nginx/mime.types;
  access_log off;
  client_body_temp_path ${folder}/nginx-body; proxy_temp_path ${folder}/nginx-proxy; fastcgi_temp_path ${folder}/nginx-fastcgi;
  server { listen 127.0.0.1:${webPort}; root ${home}/public; charset utf-8; }
}
`)]) // prettier-ignore
  await new Promise((resolve) => setTimeout(resolve, 2_000))
  return { places, webPort, stop: () => stop(folder, pidFiles) }
}

/** Unpacks what cannot be installed beside another, to be run from where it lies. */
function unpack(into) {
  fs.mkdirSync(into)
  const download = () =>
    execFileSync('apt-get', ['download', '-q', ...unpacked], { cwd: into, stdio: 'ignore' })
  try {
    download()
  } catch {
    // The lists of a machine that was just set up may be old, or not there.
    execFileSync('apt-get', ['update', '-q'], { stdio: 'ignore' })
    download()
  }
  for (const name of fs.readdirSync(into).filter((one) => one.endsWith('.deb')))
    execFileSync('dpkg-deb', ['-x', path.join(into, name), into])
  const libraries = path.join(into, 'usr/lib')
  const paths = fs.readdirSync(libraries).map((name) => path.join(libraries, name))
  return {
    file: (name) => path.join(into, name),
    env: { ...process.env, LD_LIBRARY_PATH: paths.join(':') },
  }
}

function stop(folder, pidFiles) {
  for (const file of pidFiles) {
    try {
      process.kill(Number(fs.readFileSync(file, 'utf8')), 'SIGTERM')
    } catch {
      // It has not started, or has ended.
    }
  }
  // It keeps no such file.
  const running = execFileSync('ps', ['-eo', 'pid,args'], { encoding: 'utf8' }).split('\n')
  for (const line of running)
    if (line.includes(`vsftpd ${folder}`) || line.includes(`vsftpd: ${folder}`))
      process.kill(Number.parseInt(line, 10), 'SIGKILL')
}
