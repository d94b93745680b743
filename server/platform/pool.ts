import pg from 'pg'
import { config } from './config'
import { log } from './log'

/** What runs statements: the pool, or a client inside a transaction. */
export interface Queryable {
  query<Row extends pg.QueryResultRow>(sql: string, values?: unknown[]): Promise<pg.QueryResult<Row>>
}

/** An error of the database, told apart by what the caller can do about it (SQLSTATE classes). */
export class DatabaseError extends Error {
  constructor(
    readonly code: 'duplicate' | 'missing-reference' | 'unavailable' | 'disk-full' | 'other',
    message: string,
    options: { cause: unknown },
  ) {
    super(message, options)
  }
}

const away = 'The database does not answer. Try again in a moment; nothing was lost.'

/** Maps a driver's error to ours; anything else passes unchanged. */
export function databaseError(error: unknown): unknown {
  const { code: state, message } = error as { code?: string; message?: string }
  // The driver tells of a connection that broke, or could not be had in time, by its text alone.
  if (
    typeof state !== 'string' &&
    /^(Connection terminated|timeout exceeded when trying|Client has encountered a connection error)/.test(
      message ?? '',
    )
  )
    return new DatabaseError('unavailable', away, { cause: error })
  if (typeof state !== 'string') return error
  const as = (code: DatabaseError['code'], message: string) =>
    new DatabaseError(code, message, { cause: error })
  if (state === '23505') return as('duplicate', 'This already exists.')
  if (state === '23503') return as('missing-reference', 'Something this refers to is not there.')
  if (state === '53100')
    return as('disk-full', 'The database’s disk is full. Make room and try again; nothing was lost.')
  if (/^(08|57P|53300)/.test(state) || /^E(CONN|PIPE|HOSTUNREACH|TIMEDOUT)/.test(state))
    return as('unavailable', away)
  return error
}

// Counts fit a number; node-postgres hands 64-bit integers over as text unless told.
pg.types.setTypeParser(pg.types.builtins.INT8, Number)

// Kept across hot reloads of the development server, which evaluate this module again.
const globals = globalThis as { rubricantPool?: pg.Pool }

/** The process's connection pool. */
export function pool(): pg.Pool {
  if (!globals.rubricantPool) {
    globals.rubricantPool = new pg.Pool({
      connectionString: config().databaseUrl,
      max: 12,
      // Nobody waits without end for a database that is away, or for one statement.
      connectionTimeoutMillis: 5_000,
      statement_timeout: 60_000,
      idle_in_transaction_session_timeout: 120_000,
    })
    globals.rubricantPool.on('error', (error) => log.warn({ err: error }, 'idle database connection lost'))
  }
  return globals.rubricantPool
}

/** Runs `work` in one transaction: all of it or, when it throws, nothing. */
export async function transaction<T>(work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  let client: pg.PoolClient
  try {
    client = await pool().connect()
  } catch (error) {
    throw databaseError(error)
  }
  let broken: Error | undefined
  // The pool listens only while a client is idle. One whose connection breaks while it is out tells of
  // it beside the failing statement, and an error nobody listens for would end the process.
  const lost = (error: Error) => (broken = error)
  client.on('error', lost)
  try {
    await client.query('BEGIN')
    const result = await work(client)
    await client.query('COMMIT')
    return result
  } catch (error) {
    await client.query('ROLLBACK').catch((failed: Error) => (broken ??= failed))
    throw databaseError(error)
  } finally {
    client.off('error', lost)
    // A connection that is lost, or could not even roll back, is of no use to the next.
    client.release(broken)
  }
}

/** A connection of its own outside the pool, for LISTEN. */
export function listenClient(): pg.Client {
  return new pg.Client({
    connectionString: config().databaseUrl,
    connectionTimeoutMillis: 5_000,
    keepAlive: true,
  })
}

/** The first row, or null. */
export async function maybeOne<Row extends pg.QueryResultRow>(
  db: Queryable,
  sql: string,
  values?: unknown[],
): Promise<Row | null> {
  const { rows } = await db.query<Row>(sql, values)
  return rows[0] ?? null
}

/** All rows. */
export async function many<Row extends pg.QueryResultRow>(
  db: Queryable,
  sql: string,
  values?: unknown[],
): Promise<Row[]> {
  const { rows } = await db.query<Row>(sql, values)
  return rows
}
