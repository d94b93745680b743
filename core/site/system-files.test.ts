import { expect, test } from '@jest/globals'
import { isOfSystem } from './system-files'

test('what systems and programs put beside files for themselves is told from what is a user’s', () => {
  const theirs = ['.DS_Store', 'a/Thumbs.db', '__MACOSX/a/._index.html', 'a/._tides.html', '.git/HEAD', 'old/_vti_cnf/index.htm', 'a/.~lock.Tides.odt#', '~$Tides.docx', 'System Volume Information/x', '$RECYCLE.BIN/a.html'] // prettier-ignore
  expect(theirs.filter((path) => !isOfSystem(path))).toEqual([])
  const own = ['.htaccess', '.well-known/security.txt', 'index.html~', 'thumbs.db.html', '_private/a.html', 'a_vti_cnf/x', '.github.html', 'a/_.html', 'git/index.html', '~anna/index.html'] // prettier-ignore
  expect(own.filter(isOfSystem)).toEqual([])
})
