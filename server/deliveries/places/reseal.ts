import { many, resealWith, transaction } from '#server/platform'
import { accountKeyUse, sealedFor } from './sign-in'
import type { HostPlace } from './web-host-rows'

/**
 * Seals every secret anew with the key of the settings, all or none; what that key opens already stays.
 * @param oldKey the key before, 32 bytes
 * @returns how many are sealed anew, and how many neither key opens: those stay as they are
 */
export async function resealSecrets(oldKey: Buffer): Promise<{ resealed: number; lost: number }> {
  return transaction(async (client) => {
    let resealed = 0
    let lost = 0
    const take = async (
      table: string,
      column: string,
      id: string,
      name: string,
      sealed: Buffer,
      use: string,
    ) => {
      const next = resealWith(sealed, use, oldKey)
      if (next === 'lost') lost += 1
      else if (next !== 'as it is') {
        await client.query(`UPDATE ${table} SET ${column} = $2 WHERE ${name} = $1`, [id, next])
        resealed += 1
      }
    }
    const hosts = await many<HostPlace & { id: string; secretSealed: Buffer }>(
      client,
      'SELECT id, protocol, host, port, account, secret_sealed AS "secretSealed" FROM web_hosts FOR UPDATE',
    )
    for (const host of hosts)
      await take('web_hosts', 'secret_sealed', host.id, 'id', host.secretSealed, sealedFor(host))
    const keys = await many<{ accountId: string; privateSealed: Buffer }>(
      client,
      'SELECT account_id AS "accountId", private_sealed AS "privateSealed" FROM account_keys FOR UPDATE',
    )
    for (const { accountId, privateSealed } of keys)
      await take(
        'account_keys',
        'private_sealed',
        accountId,
        'account_id',
        privateSealed,
        accountKeyUse(accountId),
      )
    return { resealed, lost }
  })
}
