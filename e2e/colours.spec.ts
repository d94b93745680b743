import { expect, type Page, test } from '@playwright/test'
import { findPoorContrast } from '#core/colours'

/**
 * Pages whose colours are worked out here and in the browser, which has the last word: what we find has to be what is on the
 * screen. Nearly every text of them is hard to read.
 */
const sheets: Record<string, string> = {
  'site.css': `@import "deep/imported.css" layer(early) screen; @import url(print.css) print;
@layer base, over;
@layer over { .layered { color: #8a8 } }
@layer base { .layered { color: #a88 !important } .later { color: #99a } }
.later { color: #aa9 }
:root { color-scheme: light dark; --ink: #8899aa; --deep: var(--ink); --round: var(--again); --again: var(--round) }
.deep { color: var(--deep) } .fallback { color: var(--none, #a9a) } .round { color: #9ab; color: var(--round) } .part { color: rgb(var(--r, 150), 160, 170) }
.card { background: #ddd; .in { color: #a98 } & > b { color: #998 } > i { color: #899 }
  @media (min-width: 40em) { color: #9a9; em { color: #ccb } } &:hover { color: #000 } .wide & { color: #a8a } }
@media (width < 600px) { p { color: #fff } } @media not print { .not-print { color: #8aa } }
@media (prefers-color-scheme: dark) { .dark { color: #555; background-color: #333 } body { color: #888 } }
.both { color: light-dark(#aaa, #555); background: light-dark(#eee, #222) }
.veil { opacity: .4; color: #000; background: #eee } .see-through { background: rgb(200 100 0 / 30%); color: hsl(200 50% 40% / .6) }
:is(.a, #none) .b { color: #caa } .a .b { color: #000 } :where(#q) .w { color: #000 } .w { color: #aac }
p:not(.x):not(.deep):nth-child(odd of p).odd { color: #9aa } a:link { color: #7ac } a:visited { color: #000 }
.takes { color: inherit } .first { color: #000; color: nothing } .upper { COLOR: #AB9 } .ok { color: oklch(70% .1 200) }
.steps li:nth-child(2n+1) { color: #a9b } .steps li:nth-last-child(2) { color: #9ba } .steps li:last-of-type { color: #bba } .steps i:only-of-type { color: #abb }
[data-x="y" i] { color: #b99 } .empty:empty + p { color: #99b } .has:has(> b) { color: #b9b }
@supports (display: grid) { .supported { color: #9b9 } } @supports not (display: grid) { .supported { color: #000 } }
table.grid td { background: rgba(0, 0, 0, .2); color: #888 } .ground { --b: #cde; background: var(--b) no-repeat; color: #9ab }`,
  'deep/imported.css': '.deep { color: #000 } blockquote { color: #b8a090 }',
  'print.css': 'p { color: #fff !important }',
}
const today = `<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><title>T</title><link rel="stylesheet" href="site.css">
<link rel="stylesheet" href="print.css" media="print"><link rel="alternate stylesheet" title="z" href="print.css">
<style media="screen">.styled { color: #b99 !important }</style></head><body>
<p class="layered">t1</p><p class="layered later">t2</p><p class="later">t3</p><p class="deep">t4</p><p class="fallback">t5</p><p class="round">t6</p><p class="part">t7</p>
<div class="card">t8 <span class="in">t9</span> <b>t10</b> <i>t11</i> <em>t12</em></div><div class="wide"><span class="card">t13</span></div>
<p class="not-print">t14</p><p class="dark">t15</p><p class="both">t16</p><p class="veil">t17 <b style="background: #777">t18</b></p><p class="see-through">t19</p>
<div class="a"><p class="b">t20</p></div><div id="q"><p class="w">t21</p></div><p class="odd">t22</p><p class="odd">t23</p>
<p><a href="x">t24</a> <a href="y" style="color: #8b8 !important">t25</a></p><div style="color: #8bb"><p class="takes">t26</p><a href="q" class="takes">t27</a></div>
<p class="first" style="color: #9">t28</p><p class="upper">t29</p><p class="ok">t30</p><p data-x="Y">t31</p><p class="empty"></p><p>t32</p><div class="has">t33<b>t34</b></div>
<p class="supported">t35</p><table class="grid"><tr><td>t36<td style="background: white">t37</table><p class="ground">t38</p><p class="styled" style="color: #000">t39</p>
<p hidden class="later">t40</p><p class="later" style="visibility: hidden">t41<span style="visibility: visible">t42</span></p><blockquote>t43</blockquote>
<fieldset><legend style="color: #aaa">t44</legend><label class="later">t45</label></fieldset><p><mark style="color: #cc0">t46</mark></p><p style="color: #1234">t47</p>
<ol class="steps"><li>t48<li>t49<li>t50 <i>t51</i><li>t52 <i>t53</i><i>t54</i></ol>
</body></html>`
const old = `<html><head><title>T</title><STYLE>.Foo { color: #999 } P.Foo TT { color: #9a9 }</STYLE></head><body bgcolor=FFFFCC text="#AAAA99" link="c0a080">
<h1>t1</h1><p class=foo>t2 <tt>t3</tt><table bgcolor=chucknorris><tr><td>t4 <a href=x>t5</a><td bgcolor=#abc><font color=#bcd>t6</font></table>
<div style="color: #9999ff"><table><tr><td>t7</td></tr></table>t8</div><center><font size=-1>t9</font></center><p><font color="8080FF">t10</font> <font color=gainsboro>t11</font></p>`

interface Seen {
  readonly words: string
  readonly text: string
  readonly ground: string
}

/** What the browser shows each text in, by its own reckoning of styles: the styles are its, the mixing is ours. */
const seenInBrowser = (page: Page): Promise<Seen[]> =>
  page.evaluate(() => {
    type Rgba = [number, number, number, number]
    const canvas = document.createElement('canvas').getContext('2d', { willReadFrequently: true })!
    const read = (colour: string): Rgba => {
      const numbers = /^rgba?\(([^)]*)\)$/.exec(colour)?.[1]!.split(',').map(Number)
      if (numbers) return [numbers[0]!, numbers[1]!, numbers[2]!, numbers[3] ?? 1]
      canvas.fillStyle = colour
      canvas.fillRect(0, 0, 1, 1)
      const [red, green, blue] = canvas.getImageData(0, 0, 1, 1).data
      return [red!, green!, blue!, 1]
    }
    const over = (front: Rgba, back: Rgba, alpha = front[3]) =>
      [0, 1, 2, 3].map((at) => (at === 3 ? 1 : front[at]! * alpha + back[at]! * (1 - alpha))) as Rgba
    const hex = (colour: Rgba) => `#${colour.slice(0, 3).map((one) => Math.round(one).toString(16).padStart(2, '0')).join('')}`
    const isDark = matchMedia('(prefers-color-scheme: dark)').matches && getComputedStyle(document.documentElement).colorScheme.includes('dark')
    const canvasColour: Rgba = isDark ? [18, 18, 18, 1] : [255, 255, 255, 1]
    const seen: { words: string; text: string; ground: string }[] = []
    for (const element of document.querySelectorAll('body, body *')) {
      const words = [...element.childNodes].map((node) => (node instanceof Text ? node.data : '')).join('').trim()
      if (!words || !element.checkVisibility({ visibilityProperty: true })) continue
      const around: Element[] = []
      for (let one: Element | null = element; one; one = one.parentElement) around.unshift(one)
      const veils: { opacity: number; behind: Rgba }[] = []
      let ground = canvasColour
      for (const one of around) {
        const { opacity, backgroundColor } = getComputedStyle(one)
        if (Number(opacity) < 1) veils.push({ opacity: Number(opacity), behind: ground })
        ground = over(read(backgroundColor), ground)
      }
      let text = over(read(getComputedStyle(element).color), ground)
      for (const { opacity, behind } of veils.reverse()) {
        text = over(text, behind, opacity)
        ground = over(ground, behind, opacity)
      }
      seen.push({ words, text: hex(text), ground: hex(ground) })
    }
    return seen
  }) // prettier-ignore

const channels = (colour: string) => [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16))
const luminance = (colour: string) => {
  const [red, green, blue] = channels(colour).map((channel) => {
    const value = channel / 255
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4
  })
  return 0.2126 * red! + 0.7152 * green! + 0.0722 * blue!
}
const ratio = ({ text, ground }: Seen) => {
  const [low, high] = [luminance(text), luminance(ground)].sort((a, b) => a - b)
  return (high! + 0.05) / (low! + 0.05)
}
/** Browsers round on the way; two that differ by no more than that are one. */
const isNear = (a: string, b: string) =>
  channels(a).every((channel, at) => Math.abs(channel - channels(b)[at]!) <= 2)

for (const [name, html] of [['today', today], ['old', old]] as const)
  for (const scheme of ['light', 'dark'] as const)
    test(`the colours of a page of ${name} are those that a browser shows, in the ${scheme} set`, async ({ page }) => {
      await page.emulateMedia({ colorScheme: scheme })
      await page.setViewportSize({ width: 1280, height: 800 })
      await page.route('https://site.invalid/**', (route) => {
        const path = new URL(route.request().url()).pathname.slice(1)
        const body = path === 'page.html' ? html : (sheets[path] ?? '')
        return route.fulfill({ body, contentType: path === 'page.html' ? 'text/html; charset=utf-8' : 'text/css' })
      })
      await page.goto('https://site.invalid/page.html')
      const theirs = (await seenInBrowser(page)).filter((one) => ratio(one) < (one.words === 't1' && name === 'old' ? 3 : 4.49))
      // A pair of colours is told once with how often it is there: the words of the first are known.
      const ours = findPoorContrast({ html, path: 'page.html', sheetAt: (path) => sheets[path] ?? null })
        .filter((one) => one.scheme === scheme || (name === 'old' && scheme === 'dark'))
      for (const one of ours) {
        const same = theirs.find(({ words }) => words === one.words)
        expect(same && [isNear(same.text, one.text), isNear(same.ground, one.ground)], `${one.words}: ${one.text} on ${one.ground}, ${JSON.stringify(same)}`).toEqual([true, true])
      }
      const told = ours.reduce((sum, { count }) => sum + count, 0)
      // Of the dark set only what is otherwise there is told apart.
      if (scheme === 'light' || name === 'old') expect(told).toBe(theirs.length)
      expect(ours.length).toBeGreaterThan(6)
    }) // prettier-ignore
