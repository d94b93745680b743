import pg from 'pg'
import { Problem } from '#core/problems'
import { config } from './config'
import { log } from './log'

/** What runs statements: the pool, or a client inside a transaction. */
export interface Queryable {
  query<Row extends pg.QueryResultRow>(sql: string, values?: unknown[]): Promise<pg.QueryResult<Row>>
}

/** A database that cannot do anything now, for a reason that has nothing to do with what was asked. */
export class DatabaseError extends Problem<'unavailable' | 'database-full'> {}

/** A statement that would break a rule of the tables (SQLSTATE class 23); `constraint` names the rule. */
export class ConstraintError extends Error {
  constructor(
    readonly code: 'duplicate' | 'missing-reference',
    readonly constraint: string | null,
    cause: unknown,
  ) {
    super(`${code}: ${constraint ?? 'unnamed'}`, { cause })
  }
}

/** Maps a driver's error to ours by its SQLSTATE; anything else passes unchanged. */
export function databaseError(error: unknown): unknown {
  const {
    code: state,
    message,
    constraint = null,
  } = error as { code?: string; message?: string; constraint?: string | null }
  const unavailable = () => new DatabaseError('unavailable', null, { cause: error })
  // The driver tells of a connection that broke, or could not be had in time, by its text alone.
  if (typeof state !== 'string')
    return /^(Connection terminated|timeout exceeded when trying|Client has encountered a connection error)/.test(
      message ?? '',
    )
      ? unavailable()
      : error
  if (state === '23505') return new ConstraintError('duplicate', constraint, error)
  if (state === '23503') return new ConstraintError('missing-reference', constraint, error)
  if (state === '53100') return new DatabaseError('database-full', null, { cause: error })
  if (/^(08|57P|53300)/.test(state) || /^E(CONN|PIPE|HOSTUNREACH|TIMEDOUT)/.test(state)) return unavailable()
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
    // The pool listens until a client is handed out, and whoever gets it from a moment later on: an error between the two,
    // which comes where the last of a connection's answers is read with its end, would end the process.
    globals.rubricantPool.on('connect', (client) => client.on('error', () => {}))
  }
  return globals.rubricantPool
}

/** Ends the pool, and every connection with it; who asks for it after that has a new one. */
export async function endPool(): Promise<void> {
  const ended = globals.rubricantPool
  delete globals.rubricantPool
  await ended?.end()
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
