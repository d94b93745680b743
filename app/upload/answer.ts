import type { DestinationTest } from '#server/deliveries'

/** What the Upload view's action answers. */
export type UploadAnswer =
  | { readonly problem: { readonly code: string; readonly message: string; readonly field: string | null } }
  | { readonly test: DestinationTest }
  | { readonly saved: string }
  | { readonly publicKey: string }
  | { readonly removed: true }
  | { readonly compared: true }
  | { readonly sending: string }
  | { readonly goingOn: true }
  | { readonly cancelled: true }
  | { readonly paused: true }
  | { readonly byItself: number | null }
