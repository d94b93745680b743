import { noKey, vouchedKey } from '#core/delivery'

/** What saving means once it is known how a host shows that it is itself. */
export function acceptWords(hostKey: string): string {
  if (hostKey === noKey) return 'Send the password and save'
  return hostKey === vouchedKey ? 'Sign in and save' : 'Accept the key and save'
}

/** How a host shows that it is itself. */
export function HostKey({ hostKey, protocol }: { hostKey: string; protocol: string }) {
  if (hostKey === noKey)
    return <>Nothing shows that this host is itself, and the password travels readable.</>
  if (hostKey === vouchedKey)
    return <>An authority that this computer trusts vouches for the host’s certificate.</>
  const key = <span className="font-mono text-[12.5px] break-all">{hostKey}</span>
  return protocol === 'sftp' ? (
    <>The host’s key is {key}. Compare it with what your host told you.</>
  ) : (
    <>
      Nobody vouches for the host’s certificate for this name. Its fingerprint is {key}; compare it with what
      your host told you.
    </>
  )
}
