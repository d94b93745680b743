import { expect, test } from '@jest/globals'
import { buildAll, change, pageCalled, siteFrom, TextStore, write } from '#core/testing'
import { hasSlot, templateOfDesign } from './index'

const design = '<div class="card">\n  <h2>What pages say</h2>\n  <p>Filler.</p>\n</div>\n<pre>\n a\n</pre>\n'

test('a design becomes a template whose slot stands where pages fill it in', () => {
  const filled = { start: design.indexOf('<h2>') - 2, end: design.indexOf('</div>') }
  const source = templateOfDesign(design, filled)
  expect(source).toBe(
    '<template slot="content">\n  <div class="card">\n    <slot name="content"></slot>\n  </div>\n  <pre>\n a\n</pre>\n</template>\n',
  )
  expect([hasSlot(source), hasSlot(design)]).toEqual([true, false])
  // What comes out for a page is the design, with the page's own text in it.
  const store = new TextStore()
  let site = siteFrom('Home\n  Visit', store, 'Home')
  site = change(site, store, { kind: 'addTemplate', templateId: 'card', name: 'Card', source: store.put(source), basedOn: site.templateId })
  site = change(site, store, { kind: 'chooseTemplate', pageIds: [pageCalled(site, 'Visit').id], of: 'page', templateId: 'card' })
  site = write(site, store, 'Visit', '<p>Come.</p>')
  expect(buildAll(site, store).get('visit.html')).toContain('      <div class="card">\n        <p>Come.</p>\n      </div>\n      <pre>\n a\n</pre>\n')
}) // prettier-ignore

test('a whole document stays one, and nothing chosen changes nothing', () => {
  const whole = '<!DOCTYPE html><html><body><main>x</main></body></html>'
  expect(templateOfDesign(whole, { start: whole.indexOf('x'), end: whole.indexOf('x') + 1 })).toBe('<!DOCTYPE html><html><body><main><slot name="content"></slot></main></body></html>\n')
  expect(templateOfDesign('<p>a</p>', null)).toBe('<template slot="content">\n  <p>a</p>\n</template>\n')
  expect(templateOfDesign('<p>a</p>', { start: 3, end: 3 })).toBe('<template slot="content">\n  <p>a</p>\n</template>\n')
}) // prettier-ignore
