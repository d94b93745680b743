import { randomUUID } from 'node:crypto'
import { Problem } from '#core/problems'
import { announceSoon, many, maybeOne, notFound, pool, type Queryable, take, tooMany } from '#server/platform'

/** A place in a page: an element, counted among those of its name from the top, and how what it says begins. */
export interface NotedPlace {
  readonly tag: string
  readonly nth: number
  readonly quote: string
}

export interface NoteAnswer {
  readonly id: string
  readonly author: string
  /** Whether its author takes part in the site. */
  readonly isOurs: boolean
  readonly text: string
  readonly madeAt: Date
}

/** What somebody says of a page, of a place in it, or of the plan. */
export interface Note {
  readonly id: string
  /** Null for the plan. */
  readonly pageId: string | null
  readonly place: NotedPlace | null
  readonly author: string
  readonly isOurs: boolean
  readonly text: string
  readonly madeAt: Date
  readonly answers: readonly NoteAnswer[]
  readonly settled: {
    readonly at: Date
    readonly by: string
    /** The change that did it, as history calls it. */
    readonly with: string | null
  } | null
}

/** Who writes: somebody who takes part, or whoever holds the address of a look. */
export type NoteAuthor =
  | { readonly name: string; readonly accountId: string; readonly lookId?: undefined }
  | {
      readonly name: string
      readonly lookId: string
      readonly origin: string
      readonly accountId?: undefined
    }

export interface NewNote {
  readonly pageId: string | null
  readonly place: NotedPlace | null
  readonly text: string
}

/** Notes that a site may have: more are no notes on a site any more. */
const mostNotes = 2_000
const mostAnswers = 100

interface NoteRow extends Omit<Note, 'place' | 'answers' | 'settled'> {
  readonly tag: string | null
  readonly nth: number | null
  readonly quote: string
  readonly settledAt: Date | null
  readonly settledBy: string | null
  readonly settledWith: string | null
}

/**
 * Notes on a site, the oldest first.
 * @param lookId only what was written at this look, for those who hold its address
 */
export async function listNotes(siteId: string, lookId: string | null = null): Promise<Note[]> {
  const rows = await many<NoteRow>(
    pool(),
    `SELECT id, page_id AS "pageId", tag, nth, quote, author, look_id IS NULL AND account_id IS NOT NULL AS "isOurs",
       text, made_at AS "madeAt", settled_at AS "settledAt", settled_by AS "settledBy", settled_with AS "settledWith"
     FROM notes WHERE site_id = $1 AND ($2::uuid IS NULL OR look_id = $2) ORDER BY made_at, id LIMIT ${mostNotes}`,
    [siteId, lookId],
  )
  const answers = await many<NoteAnswer & { noteId: string }>(
    pool(),
    `SELECT id, note_id AS "noteId", author, account_id IS NOT NULL AS "isOurs", text, made_at AS "madeAt"
     FROM note_answers WHERE note_id = ANY($1) ORDER BY made_at, id`,
    [rows.map(({ id }) => id)],
  )
  const byNote = new Map<string, NoteAnswer[]>()
  for (const { noteId, ...answer } of answers) byNote.set(noteId, [...(byNote.get(noteId) ?? []), answer])
  return rows.map(({ tag, nth, quote, settledAt, settledBy, settledWith, ...note }) => ({
    ...note,
    place: tag === null || nth === null ? null : { tag, nth, quote },
    answers: byNote.get(note.id) ?? [],
    settled: settledAt && { at: settledAt, by: settledBy ?? '', with: settledWith },
  }))
}

/** Whoever needs no account is held back by where they come from. @throws Problem `too-many-attempts` */
async function holdBack(author: NoteAuthor): Promise<void> {
  if (author.lookId === undefined) return
  const wait = await take('note', author.origin)
  if (wait !== null) throw tooMany('Many notes have been written from here in a short time.', wait)
}

/** Writes a note; returns its id. @throws Problem `too-many-notes`, `too-many-attempts` */
export async function writeNote(siteId: string, author: NoteAuthor, note: NewNote): Promise<string> {
  await holdBack(author)
  const id = randomUUID()
  const { rowCount } = await pool().query(
    `INSERT INTO notes (id, site_id, look_id, page_id, tag, nth, quote, author, account_id, text)
     SELECT $1, $2, $3, $4, $5, $6, $7, $8, $9, $10
     WHERE (SELECT count(*) FROM notes WHERE site_id = $2) < ${mostNotes}`,
    [
      id,
      siteId,
      author.lookId ?? null,
      note.pageId,
      note.place?.tag ?? null,
      note.place?.nth ?? null,
      note.place?.quote ?? '',
      author.name,
      author.accountId ?? null,
      note.text,
    ],
  )
  if (rowCount === 0) throw new Problem('too-many-notes', { most: mostNotes })
  announceSoon({ siteId, kind: 'notes' })
  return id
}

/** Answers a note; at a look, one of that look alone. @throws Problem `too-many-notes`, `too-many-attempts` */
export async function answerNote(
  siteId: string,
  author: NoteAuthor,
  noteId: string,
  text: string,
): Promise<void> {
  await holdBack(author)
  const note = await maybeOne<{ answers: number }>(
    pool(),
    `SELECT (SELECT count(*)::int FROM note_answers WHERE note_id = n.id) AS answers FROM notes n
     WHERE n.id = $1 AND n.site_id = $2 AND ($3::uuid IS NULL OR n.look_id = $3)`,
    [noteId, siteId, author.lookId ?? null],
  )
  if (!note) throw notFound()
  if (note.answers >= mostAnswers) throw new Problem('too-many-notes', { most: mostAnswers })
  await pool().query(
    'INSERT INTO note_answers (id, note_id, author, account_id, text) VALUES ($1, $2, $3, $4, $5)',
    [randomUUID(), noteId, author.name, author.accountId ?? null, text],
  )
  announceSoon({ siteId, kind: 'notes' })
}

/** Settles a note, with the latest change that whoever does it made to its page since it was written, if there is one. */
export async function settleNote(
  siteId: string,
  noteId: string,
  by: { readonly name: string; readonly accountId: string },
): Promise<void> {
  await pool().query(
    `UPDATE notes n SET settled_at = now(), settled_by = $3, settled_with = (
       SELECT h.title FROM history h WHERE h.site_id = n.site_id AND h.made_by = $4 AND h.kind = 'change'
         AND h.state = 'done' AND h.made_at >= n.made_at AND (n.page_id IS NULL OR h.diff->'pages' ? n.page_id::text)
       ORDER BY h.revision DESC LIMIT 1)
     WHERE n.id = $1 AND n.site_id = $2 AND n.settled_at IS NULL`,
    [noteId, siteId, by.name, by.accountId],
  )
  announceSoon({ siteId, kind: 'notes' })
}

/** Opens a note again that was settled. */
export async function reopenNote(siteId: string, noteId: string): Promise<void> {
  await pool().query(
    'UPDATE notes SET settled_at = NULL, settled_by = NULL, settled_with = NULL WHERE id = $1 AND site_id = $2',
    [noteId, siteId],
  )
  announceSoon({ siteId, kind: 'notes' })
}

/** Removes a note with its answers. */
export async function removeNote(siteId: string, noteId: string): Promise<void> {
  await pool().query('DELETE FROM notes WHERE id = $1 AND site_id = $2', [noteId, siteId])
  announceSoon({ siteId, kind: 'notes' })
}

/** Notes of a site that comes from an archive, with who wrote them by name alone. */
export async function bringNotes(
  db: Queryable,
  siteId: string,
  notes: readonly (Omit<Note, 'id' | 'isOurs' | 'madeAt' | 'answers' | 'settled'> & {
    readonly madeAt: string
    readonly settled: { readonly at: string; readonly by: string; readonly with: string | null } | null
    readonly answers: readonly { readonly author: string; readonly text: string; readonly madeAt: string }[]
  })[],
): Promise<void> {
  for (const { pageId, place, author, text, madeAt, settled, answers } of notes.slice(0, mostNotes)) {
    const id = randomUUID()
    await db.query(
      `INSERT INTO notes (id, site_id, page_id, tag, nth, quote, author, text, made_at, settled_at, settled_by, settled_with)
       VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)`,
      [
        id,
        siteId,
        pageId,
        place?.tag ?? null,
        place?.nth ?? null,
        place?.quote ?? '',
        author,
        text,
        madeAt,
        settled?.at ?? null,
        settled?.by ?? null,
        settled?.with ?? null,
      ],
    )
    for (const answer of answers.slice(0, mostAnswers))
      await db.query(
        'INSERT INTO note_answers (id, note_id, author, text, made_at) VALUES ($1, $2, $3, $4, $5)',
        [randomUUID(), id, answer.author, answer.text, answer.madeAt],
      )
  }
}
