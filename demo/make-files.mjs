// node demo/make-files.mjs: draws the demo's photograph-like picture and prints its tide table, in Chromium.
import fs from 'node:fs'
import { chromium } from '@playwright/test'
import { launchOptions } from '../bin/lib/chromium.mjs'

process.chdir(new URL('.', import.meta.url).pathname)
const browser = await chromium.launch(launchOptions)
const page = await browser.newPage()

/** Dusk over the water, the light and its causeway: gradients, and grain from a seeded generator. */
const picture = await page.evaluate(async () => {
  const [width, height] = [1600, 1000]
  const canvas = new OffscreenCanvas(width, height)
  const context = canvas.getContext('2d')
  let seed = 1871
  const chance = () => (seed = (seed * 48271) % 2147483647) / 2147483647
  const sky = context.createLinearGradient(0, 0, 0, 640)
  for (const [at, colour] of [
    [0, '#28344f'],
    [0.55, '#8d6a78'],
    [0.85, '#e0a070'],
    [1, '#f3cf98'],
  ])
    sky.addColorStop(at, colour)
  context.fillStyle = sky
  context.fillRect(0, 0, width, 640)
  const sea = context.createLinearGradient(0, 640, 0, height)
  sea.addColorStop(0, '#c98f6c')
  sea.addColorStop(0.25, '#4a5468')
  sea.addColorStop(1, '#141b27')
  context.fillStyle = sea
  context.fillRect(0, 640, width, height - 640)
  for (let wave = 0; wave < 900; wave++) {
    const y = 645 + chance() ** 2 * 350
    context.fillStyle = `rgba(${chance() < 0.5 ? '255,214,160' : '10,16,26'},${0.05 + chance() * 0.12})`
    context.fillRect(chance() * width, y, 20 + (y - 640) * 0.6 * chance(), 1 + (y - 640) / 130)
  }
  // The skerry, the tower with its lamp, and the beam.
  context.fillStyle = '#161a22'
  context.beginPath()
  context.moveTo(880, 668)
  for (let x = 880; x <= 1420; x += 30)
    context.lineTo(x, 668 - Math.sin(((x - 880) / 540) * Math.PI) * 58 - chance() * 12)
  context.lineTo(1420, 672)
  context.fill()
  context.fillRect(1128, 380, 44, 250)
  context.fillRect(1118, 372, 64, 12)
  context.fillRect(1134, 338, 32, 36)
  const beam = context.createRadialGradient(1150, 356, 4, 1150, 356, 760)
  beam.addColorStop(0, 'rgba(255,240,200,.75)')
  beam.addColorStop(1, 'rgba(255,240,200,0)')
  context.fillStyle = beam
  context.beginPath()
  context.moveTo(1150, 350)
  context.lineTo(300, 190)
  context.lineTo(300, 330)
  context.lineTo(1150, 362)
  context.fill()
  context.fillStyle = '#fff4d4'
  context.fillRect(1140, 344, 20, 24)
  // Grain, as a camera would add it.
  const pixels = context.getImageData(0, 0, width, height)
  for (let at = 0; at < pixels.data.length; at += 4) {
    const grain = (chance() - 0.5) * 18
    for (const channel of [0, 1, 2]) pixels.data[at + channel] += grain
  }
  context.putImageData(pixels, 0, 0)
  const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.72 })
  return [...new Uint8Array(await blob.arrayBuffer())]
})
fs.writeFileSync('images/light-at-dusk.jpg', Buffer.from(picture))

const rows = fs
  .readFileSync('documents/tide-table.csv', 'utf8')
  .trim()
  .split('\n')
  .map((line) => line.split(','))
await page.setContent(
  `<html lang="en"><title>Tide table, first week of June</title><style>body{font:12pt Georgia,serif;margin:2cm}table{border-collapse:collapse;width:100%}th,td{text-align:left;padding:4pt 8pt;border-bottom:.5pt solid #888}</style>
   <h1>Marrow Skerry: tides, first week of June</h1><table><tr>${rows[0].map((cell) => `<th>${cell}`).join('')}</tr>${rows
     .slice(1)
     .map((row) => `<tr>${row.map((cell) => `<td>${cell}`).join('')}</tr>`)
     .join('')}</table></html>`,
)
await page.pdf({ path: 'documents/tide-table.pdf', format: 'A5', tagged: true })
await browser.close()
