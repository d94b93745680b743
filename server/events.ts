import type pg from 'pg'
import { listenClient, pool } from './database/pool'
import { log } from './log'

/** Something that other windows and processes want to know at once. */
export type SiteEvent =
  | { readonly siteId: string; readonly kind: 'revision'; readonly revision: number }
  | ({ readonly siteId: string; readonly kind: 'delivery'; readonly deliveryId: string } & DeliveryEvent)

/** How a delivery stands, light enough to be told several times a second. */
export interface DeliveryEvent {
  readonly state: 'running' | 'done' | 'failed' | 'cancelled'
  readonly fileTotal: number
  readonly byteTotal: number
  readonly fileCount: number
  readonly byteCount: number
}

type Listener = (event: SiteEvent) => void

const channel = 'rubricant_events'
const listeners = new Map<string, Set<Listener>>()
let listening: Promise<pg.Client> | null = null

/** Tells every process; whoever listens for the site hears it (PostgreSQL NOTIFY). */
export async function announce(event: SiteEvent): Promise<void> {
  await pool().query('SELECT pg_notify($1, $2)', [channel, JSON.stringify(event)])
}

async function connect(): Promise<pg.Client> {
  const client = listenClient()
  client.on('notification', ({ payload }) => {
    const event = JSON.parse(payload ?? '{}') as SiteEvent
    for (const listener of listeners.get(event.siteId) ?? []) listener(event)
  })
  client.on('error', (error) => {
    log.warn({ err: error }, 'event connection lost')
    listening = null
    // Whoever is still listening is connected again; what was missed they fetch by revision.
    if (listeners.size > 0) setTimeout(() => void ensureListening().catch(() => {}), 1000).unref()
  })
  await client.connect()
  await client.query(`LISTEN ${channel}`)
  return client
}

function ensureListening(): Promise<pg.Client> {
  listening ??= connect().catch((error: unknown) => {
    listening = null
    throw error
  })
  return listening
}

/** Hears a site's events until the returned function is called. */
export async function listen(siteId: string, listener: Listener): Promise<() => void> {
  await ensureListening()
  const group = listeners.get(siteId) ?? new Set()
  group.add(listener)
  listeners.set(siteId, group)
  return () => {
    group.delete(listener)
    if (group.size === 0) listeners.delete(siteId)
  }
}

/** Ends the connection that listens. */
export async function stopListening(): Promise<void> {
  const client = await listening?.catch(() => null)
  listening = null
  listeners.clear()
  await client?.end()
}
