import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { readHostLetter } from './index'

describe('what a host wrote', () => {
  test.each([
    ['an address', 'sftp://keeper@web4.host.example:2222/public', { protocol: 'sftp', host: 'web4.host.example', port: 2222, account: 'keeper', folder: 'public' }],
    ['an address in a sentence', 'Go to ftps://a%40b@ftp.host.example/, please.', { protocol: 'ftps-implicit', host: 'ftp.host.example', account: 'a@b' }],
    ['lines', 'Hello!\nSFTP server: web4.host.example\nPort: 22\nUser name: skerry_1\nPassword: tern Nest-7!\nWeb directory: /htdocs/\nYour website: https://www.skerry.example', { protocol: 'sftp', host: 'web4.host.example', port: 22, account: 'skerry_1', password: 'tern Nest-7!', folder: '/htdocs', publicAddress: 'https://www.skerry.example' }],
    ['columns', 'Protocol   FTP with explicit TLS\nHost       ftp.host.example\nLogin      u1234\nFolder     public_html', { protocol: 'ftps', host: 'ftp.host.example', account: 'u1234', folder: 'public_html' }],
    ['a table', '| Server | ftp.host.example:2121 |\n| Account | keeper |\n| Domain | skerry.example |', { protocol: 'ftp', host: 'ftp.host.example', port: 2121, account: 'keeper', publicAddress: 'https://skerry.example/' }],
    ['a sentence', 'You can connect to files.host.example by SFTP. Your pages are shown at http://skerry.example/.', { protocol: 'sftp', host: 'files.host.example', publicAddress: 'http://skerry.example/' }],
    ['lines in German, with other services', 'Mailserver: mail.host.example\nE-Mail-Benutzer: info@skerry.example\nWebmail: https://webmail.host.example\nFTP-Server: ftp.host.example\nFTP-Benutzername: w01a2b3\nKennwort: „tern“\nVerzeichnis: /html\nIhre Domain: www.skerry.example', { protocol: 'ftp', host: 'ftp.host.example', account: 'w01a2b3', password: 'tern', folder: '/html', publicAddress: 'https://www.skerry.example/' }],
    ['lines in French', 'Serveur FTP : ftp.hote.example\nIdentifiant : marine\nMot de passe : secret\nDossier racine : www\nAdresse du site : http://marine.example/', { protocol: 'ftp', host: 'ftp.hote.example', account: 'marine', password: 'secret', folder: 'www', publicAddress: 'http://marine.example/' }],
    ['lines in Polish, Russian and Japanese', 'Nazwa użytkownika: latarnia\nСервер: ftp.host.example\nホームページ：x\nポート番号：2121', { protocol: 'ftp', host: 'ftp.host.example', port: 2121, account: 'latarnia' }],
    ['labels above their values', 'Hostname\nftp.host.example\nUser name\nu123\nPassword\n••••••\nPort\n2121', { protocol: 'ftp', host: 'ftp.host.example', port: 2121, account: 'u123' }],
    ['sentences that say more', 'Hi Ann, you can upload by SFTP to files.host.example on port 2222. Your user name is ann, your password is confidential and the web root is /var/www/ann. See https://support.host.example or https://ann.example.', { protocol: 'sftp', host: 'files.host.example', port: 2222, account: 'ann', folder: '/var/www/ann', publicAddress: 'https://ann.example' }],
    ['a command', 'ssh -p 2222 ann@shell.host.example', { protocol: 'sftp', host: 'shell.host.example', port: 2222, account: 'ann' }],
    ['a command that copies', 'scp -P 2222 index.html ann@shell.host.example:public_html/', { protocol: 'sftp', host: 'shell.host.example', port: 2222, account: 'ann', folder: 'public_html' }],
    ['a number beside a name', 'IP address: 203.0.113.9\nFTP hostname: ftp.host.example\nName server 1: ns1.host.example\nLogin page: https://panel.host.example', { protocol: 'ftp', host: 'ftp.host.example' }],
    ['nothing of it', 'Thank you for your order of two lamps.', {}],
  ] as const)('as %s', (_, letter, found) => {
    expect(readHostLetter(letter)).toEqual(found)
  }) // prettier-ignore

  test('whatever it is, ends in an answer, with a port that is one', () => {
    const pieces = fc.constantFrom('Host', ':', ' ', '\n', 'ftp://', 'sftp://a:b@', 'x.y', '70000', '22', '/', '|', '\t', 'user', 'is', '@', '%', '[::1]')
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.array(pieces, { maxLength: 30 }).map((some) => some.join(''))), (letter) => {
        const { port } = readHostLetter(letter)
        expect(port === undefined || (port >= 0 && port <= 65_535)).toBe(true)
      }),
      { numRuns: 2_000 },
    )
  }) // prettier-ignore

  test('a number that can be no port is none, wherever it stands', () => {
    expect(readHostLetter('Host: files.host.example:70000')).toEqual({ host: 'files.host.example' })
    expect(readHostLetter('Host is:70000')).toEqual({})
    expect(readHostLetter('Host: files.host.example:2222')).toMatchObject({ port: 2222 })
  })

  test('of any length is read as far as a letter goes', () => {
    const long = ['a '.repeat(50_000), 'x.'.repeat(50_000), 'Host: '.repeat(20_000), '| '.repeat(50_000), '-'.repeat(100_000), 'ssh a@'.repeat(20_000), 'a-'.repeat(50_000), 'user is '.repeat(20_000), ' is'.repeat(30_000), '“'.repeat(50_000)]
    for (const text of long) expect(readHostLetter(`Host: files.host.example\n${text}\nAccount: late`)).toMatchObject({ host: 'files.host.example' })
    expect(readHostLetter(`${'-'.repeat(100_000)}\nAccount: late`)).toEqual({})
  }) // prettier-ignore
})
