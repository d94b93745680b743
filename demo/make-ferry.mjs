// node demo/make-ferry.mjs: makes demo/saltings-ferry.zip, a made-up site as its author typed it by hand over
// twenty years, with each usual fault once. It is there to be brought in.
import fs from 'node:fs'
import { ZipFile } from 'yazl'

const menu = [
  ['index.html', 'Home'],
  ['times/index.html', 'Sailing times'],
  ['fares.html', 'Fares'],
  ['boats/index.html', 'Our boats'],
  ['slip/index.html', 'The old slip'],
  ['contact.html', 'Contact'],
]
const up = (path) => '../'.repeat(path.split('/').length - 1)

/** A page in the frame that most of them have. */
function page(path, title, body, { description = '', extra = '' } = {}) {
  const own = menu.find(([to]) => to === path)
  const section = menu.find(([to]) => to.includes('/') && path.startsWith(to.split('/')[0] + '/'))
  const items = menu.map(([to, label]) =>
    to === own?.[0]
      ? `      <li class="here">${label}</li>`
      : `      <li${to === section?.[0] ? ' class="in"' : ''}><a href="${up(path)}${to}">${label}</a></li>`,
  )
  return `<!DOCTYPE html>
<html lang="en">
  <head>
    <meta http-equiv="Content-Type" content="text/html; charset=utf-8">
    <title>${title} | Saltings Ferry</title>
${description && `    <meta name="description" content="${description}">\n`}    <link rel="stylesheet" href="${up(path)}css/ferry.css" type="text/css">
${extra}  </head>
  <body>
    <div id="top">
      <a href="${up(path)}index.html"><img src="${up(path)}img/ferry.svg" alt="Saltings Ferry" width="220" height="60"></a>
    </div>
    <ul id="menu">
${items.join('\n')}
    </ul>
    <div id="text">
${body
  .trim()
  .split('\n')
  .map((line) => (line ? `      ${line}` : ''))
  .join('\n')}
    </div>
    <div id="bottom">
      <p>Saltings Ferry, at the old slip. Ring the bell twice.</p>
    </div>
  </body>
</html>
`
}

const drawing = (width, height, inner) =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}">${inner}</svg>\n`

const files = {
  'index.html': page(
    'index.html',
    'Home',
    `<h1>Across the saltings</h1>
<p>A flat boat, a rope and a winch: since 1907 the ferry has crossed the creek between the sea wall and the farms. See the <a href="times/">sailing times</a>, or <a href="fares.html">what it costs</a>.</p>
<p><a href="Fares.html">Fares for groups</a> are lower.</p>
<p><img src="img/creek.svg" width="640" height="240"></p>`,
    { description: 'A rope ferry across the saltings, by hand, since 1907.' },
  ),
  'times/index.html': page(
    'times/index.html',
    'Sailing times',
    `<h1>Sailing times</h1>
<p>Two hours either side of high water. Summer and winter are on pages of their own:</p>
<ul>
  <li><a href="summer.html">Summer</a></li>
  <li><a href="winter.html">Winter</a></li>
  <li><a href="../tides/2024.html">Tide table 2024</a></li>
</ul>`,
    { description: 'When the ferry goes: two hours either side of high water.' },
  ),
  'times/summer.html': page(
    'times/summer.html',
    'Summer',
    `<h1>Summer</h1>
<table>
  <tr><th>Day</th><th>First</th><th>Last</th></tr>
  <tr><td>Weekdays</td><td>8.00</td><td>19.30</td></tr>
  <tr><td>Sundays</td><td>10.00</td><td>17.00</td></tr>
</table>
<p><a href="#sundays">Sundays</a> are different when there is a regatta.</p>`,
  ),
  'times/winter.html': page(
    'times/winter.html',
    'Winter',
    `<h1>Winter</h1>
<p>Ring the bell. If nobody comes within <b>ten <i>minutes</b></i>, the water is too low.</p>
<h3>When there is ice</h3>
<p>There is no ferry.`,
  ),
  'fares.html': page(
    'fares.html',
    'Fares',
    `<h1>Fares</h1>
<dl>
  <dt>On foot</dt><dd>one coin</dd>
  <dt>With a bicycle</dt><dd>two coins</dd>
  <dt>Sheep</dt><dd>half a coin each, no more than twelve</dd>
</dl>
<p>Season tickets: <a href="mailto:ferry@saltings.example">write to us</a>, or print <a href="file:///C:/ferry/ticket.doc">the form</a>.</p>`,
    { description: 'What it costs to cross.' },
  ),
  'boats/index.html': page(
    'boats/index.html',
    'Our boats',
    `<h1>Our boats</h1>
<p>There have been three.</p>
<ul>
  <li><a href="widgeon.html">Widgeon</a>, 1907 to 1953</li>
  <li><a href="curlew.html">Curlew</a>, 1953 to 1998</li>
  <li><a href="dunlin.html">Dunlin</a>, the boat of today</li>
</ul>`,
  ),
  'boats/widgeon.html': page(
    'boats/widgeon.html',
    'Widgeon',
    `<h1>Widgeon</h1>
<p>Built of elm on the slip itself, and tarred each May. She took twelve people or one cart.</p>
<p>Next: <a href="curlew.html">Curlew</a>. More <a href="../slip/yard.html">about the yard</a>.</p>`,
  ),
  'boats/curlew.html': page(
    'boats/curlew.html',
    'Curlew',
    `<h1>Curlew</h1>
<p>The first with an engine, which was taken out after a week for its noise.</p>
<p><img src="../img/curlew.png" alt="Curlew on the mud"></p>`,
  ),
  'boats/dunlin.html': page(
    'boats/dunlin.html',
    'Dunlin',
    `<h1>Dunlin</h1>
<p>Larch on oak, 9.4 metres. Her rope is changed every second spring.</p>
<font color="#aa0000">She is out of the water in February.</font>`,
  ),
  'slip/index.html': page(
    'slip/index.html',
    'The old slip',
    `<h1>The old slip</h1>
<p>Granite, laid in 1844, and older than the ferry. <a href="yard.html">The yard</a> beside it built all three boats.</p>
<p>A walk along the wall is described <a href="walk.html">here</a>, the birds <a href="birds.html">here</a>.</p>`,
    { description: 'The granite slip of 1844, and the yard beside it.' },
  ),
  'slip/yard.html': page(
    'slip/yard.html',
    'The yard',
    `<h1>The yard</h1>
<p>Three generations, one bandsaw.</p>
</nav>
<p>Open to visitors on the first Saturday of the month.</p>`,
  ),
  'slip/walk.html': page(
    'slip/walk.html',
    'A walk along the wall',
    `<h1>A walk along the wall</h1>
<p>Four miles, flat, wet at the far end. <a href="http://saltings.example/slip/birds.html">The birds</a> are at their best in May.</p>
<p id="gate">At the gate turn back.</p>
<p id="gate">The other gate is locked.</p>`,
  ),
  'contact.html': page(
    'contact.html',
    'Contact',
    `<h1>Contact</h1>
<p>The bell on the post is the quickest. By post: The Ferry, Saltings.</p>
<form action="#"><input type="text" name="q"> <input type="submit" value="Ask"></form>`,
  ),
  'news/regatta.html': page(
    'news/regatta.html',
    'Regatta',
    `<h1>Regatta</h1>
<p>Nine boats, one winner, two that sank. No page leads here any more.</p>`,
  ),
  'news/rope.html': page(
    'news/rope.html',
    'A new rope',
    `<h1>A new rope</h1>
<p>Two hundred metres, from the ropewalk; see <a href="regatta.html">the regatta</a> for what the old one did.</p>`,
  ),
  // As its author began, before there was a frame.
  'old/history.htm': `<HTML>
<HEAD><TITLE>History of the ferry</TITLE></HEAD>
<BODY BGCOLOR="#FFFFFF">
<CENTER><H1>History</H1></CENTER>
<P>In 1907 Ambrose Tull bought forty fathoms of rope.
<P>In 1953 the water came over the wall.
<HR>
<A HREF="../index.html">Back</A>
</BODY>
</HTML>
`,
  'css/ferry.css': `body { margin: 0; font: 17px/1.55 Georgia, serif; color: #233; background: #f7f6f1 url(../img/reeds.svg) repeat-x bottom }
#top { padding: 16px 24px }
#menu { margin: 0; padding: 0 24px; list-style: none; background: #35586b }
#menu li { display: inline-block; margin-right: 20px; padding: 8px 0; color: #fff }
#menu a { color: #7fa2b3 }
#menu .here, #menu [aria-current="page"] { font-weight: bold; color: #fff; text-decoration: none }
#text { max-width: 44em; padding: 16px 24px 40px }
#bottom { padding: 12px 24px; color: #667; font-size: 14px }
`,
  'img/ferry.svg': drawing(220, 60, '<path d="M20 40h120l-14 14H34z" fill="#35586b"/><path d="M0 22h220" stroke="#a67c45" stroke-width="3"/><path d="M80 22v18" stroke="#233" stroke-width="3"/>'),
  'img/creek.svg': drawing(640, 240, '<rect width="640" height="240" fill="#dfe8e4"/><path d="M0 170q160-50 320 0t320 0v70H0z" fill="#7f9aa5"/><path d="M0 210q160-30 320 0t320 0v30H0z" fill="#8a8f62"/><path d="M270 165h90l-12 14h-66z" fill="#35586b"/>'),
  'img/reeds.svg': drawing(80, 40, '<path d="M10 40V8M26 40V16M44 40V4M62 40V14" stroke="#b9b48c" stroke-width="2"/>'),
  'Thumbs.db': 'x',
} // prettier-ignore

/** Typed on an old machine: its letters are those of Windows, and nothing says so. */
const birds = page('slip/birds.html', 'Birds', `<h1>Birds</h1>
<p>Avocets nest on the café’s roof – really. Éva counted “at least” forty.</p>
<p><a href="walk.html#gate">Gate</a></p>`).replace(/ *<meta http-equiv.*\n/, '') // prettier-ignore
const windows1252 = { '’': 0x92, '–': 0x96, '“': 0x93, '”': 0x94 }
const bytesOfBirds = Buffer.from([...birds].map((letter) => windows1252[letter] ?? letter.codePointAt(0)))

const zip = new ZipFile()
const options = { mtime: new Date(1998, 4, 1), forceDosTimestamp: true }
for (const [path, text] of Object.entries(files))
  zip.addBuffer(Buffer.from(text), `saltings-ferry/${path}`, options)
zip.addBuffer(bytesOfBirds, 'saltings-ferry/slip/birds.html', options)
zip.end()
zip.outputStream.pipe(fs.createWriteStream(new URL('saltings-ferry.zip', import.meta.url).pathname))
