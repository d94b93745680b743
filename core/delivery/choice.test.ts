import { describe, expect, test } from '@jest/globals'
import { lookAtChoice, mayHideHome } from './index'

describe('a choice of what is sent', () => {
  const files = [
    { path: 'index.html', kind: 'page', needs: [2] },
    { path: 'birds.html', kind: 'page', needs: [2, 3] },
    { path: 'site.css', kind: 'file', needs: [] },
    { path: 'tern.jpg', kind: 'file', needs: [] },
  ] as const

  test('that is everything misses nothing', () => {
    expect(lookAtChoice(files, () => true)).toEqual({ missing: [], staying: [] })
  })

  test('tells what chosen pages need and is left out, once, and which pages stay as they are', () => {
    expect(lookAtChoice(files, (path) => path === 'birds.html')).toEqual({
      missing: [
        { path: 'site.css', for: 'birds.html', count: 1 },
        { path: 'tern.jpg', for: 'birds.html', count: 1 },
      ],
      staying: ['index.html'],
    })
    expect(lookAtChoice(files, (path) => path.endsWith('.html')).missing[0]).toEqual({
      path: 'site.css',
      for: 'index.html',
      count: 2,
    })
    expect(lookAtChoice(files, (path) => path === 'site.css').missing).toEqual([])
  })
})

test('a placeholder is known where it stands beside a home page, and nowhere else', () => {
  const homes = new Set(['index.html', 'birds/index.html'])
  for (const path of ['default.html', 'index.php', 'INDEX.HTM', 'birds/welcome.html'])
    expect(mayHideHome(path, homes)).toBe(true)
  for (const path of ['other/index.php', 'index.txt', 'my-index.php', 'birds/terns/index.htm'])
    expect(mayHideHome(path, homes)).toBe(false)
})
