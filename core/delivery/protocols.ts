/** What a place on a web host is spoken to with. */
export type Protocol = 'sftp' | 'ftps' | 'ftps-implicit' | 'ftp'

/** As each is called, and the port it usually has. The safest first. */
export const protocols: Readonly<Record<Protocol, { readonly title: string; readonly usualPort: number }>> = {
  sftp: { title: 'SFTP', usualPort: 22 },
  ftps: { title: 'FTP with TLS', usualPort: 21 },
  'ftps-implicit': { title: 'FTP with TLS from the first byte', usualPort: 990 },
  ftp: { title: 'FTP', usualPort: 21 },
}

export const isProtocol = (text: string): text is Protocol => Object.hasOwn(protocols, text)

/** What stands for a host's key where an authority vouches for its certificate, and where nothing shows who it is. */
export const vouchedKey = 'vouched'
export const noKey = 'none'
