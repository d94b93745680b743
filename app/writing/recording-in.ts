import type { ShownRecording } from '#core/pictures'

/** What is known of a recording that this browser plays. */
export type PlayedRecording = Pick<ShownRecording, 'kind' | 'natural'>

/** How long a browser may look for what a file tells; one that it cannot play at all may never answer. */
const mostMs = 15_000

/**
 * The film or the sound at an address as this browser plays it; null for one that it does not, which others will not play
 * either. What has no picture is a sound, whatever it is called.
 */
export async function recordingIn(address: string): Promise<PlayedRecording | null> {
  const player = document.createElement('video')
  try {
    const isPlayed = await new Promise<boolean>((resolve) => {
      setTimeout(() => resolve(false), mostMs)
      player.onloadedmetadata = () => resolve(true)
      player.onerror = () => resolve(false)
      player.preload = 'metadata'
      player.src = address
    })
    if (!isPlayed) return null
    const { videoWidth: width, videoHeight: height } = player
    return width > 0 && height > 0
      ? { kind: 'video', natural: { width, height } }
      : { kind: 'audio', natural: null }
  } finally {
    // It goes on reading the file otherwise.
    player.removeAttribute('src')
    player.load()
  }
}
