import { type CSSProperties, useEffect, useRef, useState } from 'react'

/** Widths that a page is looked at in, in CSS pixels; null is as wide as there is room. */
export const previewWidths = { room: null, phone: 390, tablet: 820, desktop: 1280 } as const
export type PreviewWidth = keyof typeof previewWidths

/** A page shown as wide as a device has it, made smaller where there is less room for it. */
export function usePreviewWidth() {
  const room = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState<PreviewWidth>('room')
  const [size, setSize] = useState<{ width: number; height: number } | null>(null)
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => {
      const { width: across, height } = entry!.contentRect
      setSize({ width: across, height })
    })
    observer.observe(room.current!)
    return () => observer.disconnect()
  }, [])
  const wanted = previewWidths[width]
  const scale = wanted === null || size === null ? 1 : Math.min(1, size.width / wanted)
  const style: CSSProperties =
    wanted === null || size === null
      ? { width: '100%', height: '100%' }
      : {
          width: wanted,
          height: size.height / scale,
          transform: `scale(${scale})`,
          transformOrigin: 'top left',
          // In the middle, where there is more room than it takes.
          marginLeft: Math.max(0, (size.width - wanted * scale) / 2),
        }
  return { room, style, width, setWidth, percent: Math.round(scale * 100) }
}
