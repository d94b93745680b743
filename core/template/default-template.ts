/** The template a new site starts with. Any HTML parser reads it. */
export const defaultTemplate = `<!DOCTYPE html>
<html lang="{language}">
  <head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title>{title}</title>
    <meta name="description" content="{description}">
    <link rel="stylesheet" href="/styles/site.css">
  </head>
  <body>
    <a class="skip-link" href="#content">Skip to the content</a>
    <header class="site-header">
      <p class="site-name"><a href="/">{site}</a></p>
      <site-menu levels="1" own="mark" aria-label="Main"></site-menu>
    </header>
    <main id="content">
      <site-trail aria-label="You are here"></site-trail>
      <h1>{page}</h1>
      <slot name="content"></slot>
      <page-children aria-label="In this section"></page-children>
    </main>
    <footer class="site-footer">
      <p>{site}</p>
    </footer>
  </body>
</html>
`

/** What a new site's title pattern is. */
export const defaultTitlePattern = '{page} – {site}'
