export {
  answerNote,
  bringNotes,
  listNotes,
  type NewNote,
  type Note,
  type NoteAnswer,
  type NotedPlace,
  removeNote,
  reopenNote,
  settleNote,
  writeNote,
} from './notes'
export {
  endSharedLook,
  type HeldLook,
  listSharedLooks,
  openSharedLook,
  type SharedLook,
  sharedLookOf,
  shareLook,
} from './shared-looks'
