import { describe, expect, test } from '@jest/globals'
import { compareDelivery, filesToSend, type ManifestFile, orderDelivery } from './index'

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

  test('pictures go before style sheets, these before pages, and the home page last', () => {
    const files = ['index.html', 'a/index.html', 'styles/site.css', 'images/x.svg'].map((path) => ({
      ...file(path),
      state: 'new' as const,
    }))
    expect(orderDelivery(files).map((step) => step.map((one) => one.path))).toEqual([
      ['images/x.svg'],
      ['styles/site.css'],
      ['a/index.html'],
      ['index.html'],
    ])
  })
})
