/** What a loop over this one site's pages would be given: everything worked out but the writing. */
interface PageByHand {
  readonly title: string
  readonly up: string
  readonly label: string
  readonly menu: readonly LinkByHand[]
  readonly trail: readonly LinkByHand[]
  readonly heading: string
  readonly links: readonly string[]
  readonly below: readonly LinkByHand[]
}
interface LinkByHand {
  readonly attributes: string
  readonly label: string
}

const linksIn = (text: string): LinkByHand[] =>
  [...text.matchAll(/<li><a (.*?)>(.*?)<\/a><\/li>/g)].map(([, attributes, label]) => ({
    attributes: attributes!,
    label: label!,
  }))

/** Reads what differs between the pages of `largeSite` out of a finished one. */
export function readByHand(text: string): PageByHand {
  const between = (start: string, end: string): string => text.split(start)[1]?.split(end)[0] ?? ''
  const main = between('<main id="content">', '</main>')
  return {
    title: between('<title>', '</title>'),
    up: between('rel="stylesheet" href="', 'styles/site.css'),
    label: between('<h1>', '</h1>'),
    menu: linksIn(between('class="site-menu"', '</nav>')),
    trail: linksIn(between('class="site-trail"', '</nav>')),
    heading: between('<h2>', '</h2>'),
    links: [...main.matchAll(/see <a href="(.*?)">page/g)].map(([, href]) => href!),
    below: linksIn(between('class="page-children"', '</nav>')),
  }
}

const list = (entries: readonly LinkByHand[]): string =>
  entries.map(({ attributes, label }) => `          <li><a ${attributes}>${label}</a></li>\n`).join('')

/** The same page again, as somebody would write it in a loop of their own. */
export const writeByHand = (page: PageByHand): string => `<!DOCTYPE html>
<html lang="en">
  <head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title>${page.title}</title>
    <link rel="stylesheet" href="${page.up}styles/site.css">
  </head>
  <body>
    <a class="skip-link" href="#content">Skip to the content</a>
    <header class="site-header">
      <p class="site-name"><a href="${page.up}index.html">Saltpan Chapel</a></p>
      <nav class="site-menu" aria-label="Main">
        <ul>
${list(page.menu)}        </ul>
      </nav>
    </header>
    <main id="content">
${
  page.trail.length > 0
    ? `      <nav class="site-trail" aria-label="You are here">
        <ol>
${list(page.trail)}        </ol>
      </nav>
`
    : ''
}      <h1>${page.label}</h1>
      <h2>${page.heading}</h2>
${page.links.map((href, at) => `      <p>The keeper wrote it down, and it stands in the log to this day; see <a href="${href}">page ${at}</a> for the rest of that winter.</p>\n`).join('')}${
  page.below.length > 0
    ? `      <nav class="page-children" aria-label="In this section">
        <ul>
${list(page.below)}        </ul>
      </nav>
`
    : ''
}    </main>
    <footer class="site-footer">
      <p>Saltpan Chapel</p>
    </footer>
  </body>
</html>
`
