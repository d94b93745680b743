import {
  accountLink,
  dropSecondStep,
  endAllSessions,
  findAccount,
  passwordLink,
  resealSecondSteps,
} from '#server/accounts'
import { config, many, pool, withSecretsOfFiles } from '#server/platform'

// What whoever runs the server does by hand: `npm run admin -- <what> …`.

const usage = `npm run admin -- accounts                 accounts with their sites and sizes
npm run admin -- invite <e-mail>          a link by which it makes an account, good for a day
npm run admin -- password <e-mail>        a link by which its password is chosen anew, good for an hour
npm run admin -- one-step <e-mail>        has it sign in without a second step, after phone and spare codes are lost
npm run admin -- sign-out <e-mail>        ends every session of it; of everybody with “everybody” in its place
npm run admin -- reseal                   seals every secret anew with RUBRICANT_KEY; RUBRICANT_OLD_KEY is the one before`

interface AccountLine {
  readonly email: string
  readonly sites: number
  readonly pages: number
  readonly bytes: number
  readonly seen: Date | null
}

async function accounts(): Promise<void> {
  const lines = await many<AccountLine>(
    pool(),
    `SELECT a.email, count(DISTINCT s.id)::int AS sites, coalesce(sum(p.n), 0)::int AS pages,
       coalesce(sum(f.bytes), 0)::float8 AS bytes, (SELECT max(seen_at) FROM sessions WHERE account_id = a.id) AS seen
     FROM accounts a LEFT JOIN sites s ON s.account_id = a.id
       LEFT JOIN LATERAL (SELECT count(*) AS n FROM pages WHERE site_id = s.id) p ON true
       LEFT JOIN LATERAL (SELECT sum(size_bytes) AS bytes FROM site_files WHERE site_id = s.id) f ON true
     GROUP BY a.id ORDER BY a.email`,
  )
  for (const { email, sites, pages, bytes, seen } of lines)
    console.log(
      `${email}\t${sites} sites\t${pages} pages\t${(bytes / 1e6).toFixed(1)} MB\t${seen ? `seen ${seen.toISOString().slice(0, 10)}` : 'not signed in'}`,
    )
}

async function main([what, ...rest]: readonly string[]): Promise<number> {
  switch (what) {
    case 'accounts':
      await accounts()
      return 0
    case 'invite': {
      const email = (rest[0] ?? '').trim().toLowerCase()
      if (!/^[^\s@]+@[^\s@]+$/.test(email)) {
        console.error('Say whose: an e-mail address.')
        return 2
      }
      if (await findAccount(pool(), email)) {
        console.log('This address has an account.')
        return 1
      }
      console.log(await accountLink(email, '/sites', config().origins[0]!))
      return 0
    }
    case 'password': {
      const link = await passwordLink((rest[0] ?? '').trim().toLowerCase(), config().origins[0]!)
      console.log(link ?? 'No account has this address.')
      return link ? 0 : 1
    }
    case 'one-step': {
      const account = await findAccount(pool(), (rest[0] ?? '').trim().toLowerCase())
      if (account) await dropSecondStep(account.id)
      console.log(account ? 'It signs in with its password alone.' : 'No account has this address.')
      return account ? 0 : 1
    }
    case 'sign-out': {
      const whose = (rest[0] ?? '').trim().toLowerCase()
      const account = whose === 'everybody' ? null : await findAccount(pool(), whose)
      if (whose !== 'everybody' && !account) {
        console.log('No account has this address.')
        return 1
      }
      const ended = await endAllSessions(account?.id ?? null)
      console.log(`${ended} ${ended === 1 ? 'session is' : 'sessions are'} ended.`)
      return 0
    }
    case 'reseal': {
      const old = withSecretsOfFiles(process.env).RUBRICANT_OLD_KEY ?? ''
      if (Buffer.from(old, 'base64').length !== 32) {
        console.error('RUBRICANT_OLD_KEY has to be the key before, 32 bytes in base64.')
        return 2
      }
      // All that a delivery needs takes as long to load as the rest of a command takes.
      const { resealSecrets } = await import('#server/deliveries')
      const parts = [
        await resealSecrets(Buffer.from(old, 'base64')),
        await resealSecondSteps(Buffer.from(old, 'base64')),
      ]
      const [resealed, lost] = [
        parts.reduce((sum, one) => sum + one.resealed, 0),
        parts.reduce((sum, one) => sum + one.lost, 0),
      ]
      console.log(`${resealed} secrets are sealed with the new key.`)
      if (lost > 0) console.log(`${lost} opened with neither key; their owners have to type them again.`)
      return lost > 0 ? 1 : 0
    }
    default:
      console.error(usage)
      return 2
  }
}

try {
  process.exitCode = await main(process.argv.slice(2))
} finally {
  await pool().end()
}
