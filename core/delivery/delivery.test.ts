import { describe, expect, test } from '@jest/globals'
import { compareDelivery, filesToSend, type ManifestFile, removalStep, stepOf } from './index'

const file = (path: string, hash = path, sizeBytes = 10): ManifestFile => ({
  path,
  hash,
  sizeBytes,
  kind: path.endsWith('.html') ? 'page' : 'file',
  isHome: path === 'index.html',
})
const recorded = (path: string, hash = path) => ({ path, hash, sizeBytes: 10, modifiedSeconds: 5 })
const listed = (path: string, sizeBytes = 10, modifiedSeconds = 5) => ({ path, sizeBytes, modifiedSeconds })

describe('comparing with a destination', () => {
  test('tells every state apart', () => {
    const paths = ['new', 'same', 'changed', 'there', 'gone', 'unknown', 'other'].map((name) =>
      file(`${name}.html`),
    )
    const comparison = compareDelivery(
      paths,
      ['same', 'there', 'gone', 'old']
        .map((name) => recorded(`${name}.html`))
        .concat(recorded('changed.html', 'before')),
      [
        listed('same.html'),
        listed('changed.html'),
        listed('there.html', 10, 9),
        listed('unknown.html'),
        listed('other.html', 3),
        listed('old.html'),
        listed('stray.txt'),
      ],
    )
    expect(comparison.files.map((one) => one.state)).toEqual([
      'new',
      'same',
      'changed',
      'changed there',
      'gone there',
      'unknown',
      'other there',
    ])
    expect(comparison.leftovers.map((one) => one.state)).toEqual(['to remove', 'stray'])
    expect(filesToSend(comparison)).toHaveLength(6)
  })

  test('pictures go before style sheets, these before pages, the home page last, and then what is removed', () => {
    const paths = ['index.html', 'a/index.html', 'styles/site.css', 'images/x.svg']
    const steps = paths.map((path) => stepOf(file(path)))
    expect(steps).toEqual([3, 2, 1, 0])
    expect(Math.max(...steps)).toBeLessThan(removalStep)
  })
})
