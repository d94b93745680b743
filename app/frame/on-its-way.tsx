import { useEffect, useState } from 'react'
import { useNavigation } from 'react-router'

/** From so long on it is said: what is there sooner needs no word. */
const afterMs = 400

/** A line across the top while what was asked for is on its way. */
export function OnItsWay() {
  const { state, location } = useNavigation()
  const [late, setLate] = useState<typeof location>(undefined)
  useEffect(() => {
    if (state === 'idle') return
    const timer = setTimeout(() => setLate(location), afterMs)
    return () => clearTimeout(timer)
  }, [state, location])
  if (state === 'idle' || late !== location) return null
  return (
    <div role="status">
      <progress aria-label="On its way" className="fixed inset-x-0 top-0 z-50 h-[3px] w-full" />
    </div>
  )
}
