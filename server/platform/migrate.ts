import { readdir, readFile } from 'node:fs/promises'
import path from 'node:path'
import { many, transaction } from './pool'

/** Any number no other program is likely to use: migrations run in one process at a time. */
const migrationLock = 460_046_004

/**
 * Brings the database to the version of this code by the numbered files in `migrations/`,
 * each once, all in one transaction.
 * @returns names of the files that were applied
 * @throws when the database was made by a later version of Rubricant
 */
export async function migrate(folder = path.resolve('server/platform/migrations')): Promise<string[]> {
  const files = (await readdir(folder)).filter((name) => /^\d{3}_.*\.sql$/.test(name)).sort()
  return transaction(async (client) => {
    await client.query('SELECT pg_advisory_xact_lock($1)', [migrationLock])
    await client.query(
      'CREATE TABLE IF NOT EXISTS migrations (name text PRIMARY KEY, applied_at timestamptz NOT NULL DEFAULT now())',
    )
    const done = new Set(
      (await many<{ name: string }>(client, 'SELECT name FROM migrations')).map((row) => row.name),
    )
    const unknown = [...done].filter((name) => !files.includes(name))
    if (unknown.length > 0)
      throw new Error(
        `The database was made by a later version of Rubricant (it has ${unknown.join(', ')}). ` +
          'Start that version, or set RUBRICANT_DATA to another folder to begin afresh.',
      )
    const applied = files.filter((name) => !done.has(name))
    for (const name of applied) {
      await client.query(await readFile(path.join(folder, name), 'utf8'))
      await client.query('INSERT INTO migrations (name) VALUES ($1)', [name])
    }
    return applied
  })
}
