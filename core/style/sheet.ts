import { faces, madeFrom, type Palette, palettesOf, type StyleChoices, widths } from './choices'
import { contentRules } from './content-rules'
import { sideMenu } from './side-menu'

const variables = (palette: Palette, indent: string) =>
  Object.entries(palette)
    .map(([name, value]) => `${indent}--${name}: ${value};`)
    .join('\n')

/** A style sheet made from a few choices: plain rules in commented sections, meant to be changed. */
export function sheetOf(choices: StyleChoices): string {
  const { light, dark } = palettesOf(choices)
  const heading =
    choices.headings === choices.text ? '' : `\n  font-family: ${faces[choices.headings].stack};`
  return `${madeFrom(choices)}

/* ---- Colours and type: change these first ---- */
:root {
${variables(light, '  ')}
  --measure: ${widths[choices.width]};
  color-scheme: light dark;
}

@media (prefers-color-scheme: dark) {
  :root {
${variables(dark, '    ')}
  }
}

* {
  box-sizing: border-box;
}

body {
  margin: 0;
  background: var(--ground);
  color: var(--text);
  font: 1.0625rem/1.6 ${faces[choices.text].stack};
}

/* ---- Headings ---- */
h1,
h2,
h3,
h4 {${heading}
  line-height: 1.2;
  text-wrap: balance;
}

h1 {
  margin: 0 0 1rem;
  font-size: 2.25rem;
  font-weight: normal;
}

h2 {
  margin: 2.25rem 0 0.5rem;
  font-size: 1.4rem;
}

h3 {
  margin: 1.75rem 0 0.25rem;
  font-size: 1.1rem;
}

h4 {
  margin: 1.5rem 0 0.25rem;
  font-size: 1rem;
}

/* ---- Text ---- */
p {
  margin: 0 0 1rem;
}

small {
  color: var(--quiet);
}

code,
kbd,
samp,
pre {
  font-family: ${faces.typewriter.stack};
  font-size: 0.9em;
}

pre {
  overflow-x: auto;
  padding: 0.75rem 1rem;
  border: 1px solid var(--line);
}

mark {
  background: color-mix(in srgb, var(--accent) 22%, var(--ground));
  color: inherit;
}

hr {
  margin: 2rem 0;
  border: 0;
  border-top: 1px solid var(--line);
}

/* ---- Links and their states ---- */
a {
  color: var(--accent);
  text-underline-offset: 0.15em;
}

a:visited {
  text-decoration-style: dotted;
}

a:hover {
  text-decoration-thickness: 2px;
}

a:active {
  color: var(--text);
}

a:not([href]) {
  color: inherit;
}

a:focus-visible {
  outline: 3px solid var(--accent);
  outline-offset: 2px;
}

/* ---- The frame of every page ---- */
.skip-link {
  position: absolute;
  inset-inline-start: -100vw;
}

.skip-link:focus {
  inset-inline-start: 1rem;
  top: 0.5rem;
}

.site-header {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0.5rem 2rem;
  padding: 1.25rem 1.5rem;
  border-bottom: 1px solid var(--line);
}

.site-name {
  margin: 0;
  font-size: 1.3rem;
}

.site-name a {
  color: inherit;
  text-decoration: none;
}

main {
  max-width: calc(var(--measure) + 3rem);
  padding: 2rem 1.5rem 3rem;
}

.site-footer {
  padding: 1rem 1.5rem 2rem;
  border-top: 1px solid var(--line);
  color: var(--quiet);
  font-size: 0.9rem;
}

/* ---- Menus ---- */
.site-menu ul {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 1.25rem;
  margin: 0;
  padding: 0;
  list-style: none;
}

.site-menu a {
  text-decoration: none;
}

.site-menu a[href]:hover {
  text-decoration: underline;
}

.site-menu [aria-current] {
  color: var(--text);
  font-weight: bold;
  border-bottom: 2px solid var(--accent);
}
${choices.menu === 'side' ? sideMenu : ''}
.page-languages ul {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 1rem;
  margin: 0;
  padding: 0;
  list-style: none;
  font-size: 0.9rem;
}

.page-languages [aria-current] {
  color: var(--quiet);
}

.site-trail ol {
  display: flex;
  flex-wrap: wrap;
  margin: 0 0 1.5rem;
  padding: 0;
  list-style: none;
  color: var(--quiet);
  font-size: 0.9rem;
}

.site-trail li + li::before {
  content: "/";
  margin: 0 0.5rem;
}

.page-children {
  margin-top: 2.5rem;
  padding-top: 1rem;
  border-top: 1px solid var(--line);
}

.page-children ul {
  padding-inline-start: 1.2rem;
}

.page-latest {
  margin-top: 2.5rem;
}

.page-latest ul {
  margin: 0;
  padding: 0;
  list-style: none;
}

.page-latest li {
  margin-bottom: 0.4rem;
}

.page-latest time,
.page-children time {
  color: var(--quiet);
  font-size: 0.9rem;
}

/* ---- A column at the side ---- */
main:has(.with-side) {
  max-width: calc(var(--measure) + 22rem);
}

.with-side {
  display: grid;
  gap: 1rem 3rem;
}

@media (min-width: 50rem) {
  .with-side {
    grid-template-columns: minmax(0, 1fr) 15rem;
  }
}

aside {
  font-size: 0.95rem;
}

aside h2 {
  margin-top: 1.25rem;
  font-size: 1.1rem;
}

.section-menu ul {
  margin: 0;
  padding: 0;
  list-style: none;
}

.section-menu ul ul {
  padding-inline-start: 1rem;
}

.section-menu li {
  padding: 0.2rem 0;
}

.section-menu [aria-current="page"] {
  font-weight: bold;
}

.page-neighbours ul {
  display: flex;
  justify-content: space-between;
  gap: 2rem;
  margin: 2.5rem 0 0;
  padding: 1rem 0 0;
  border-top: 1px solid var(--line);
  list-style: none;
}

.page-neighbours li:only-child:has([rel="next"]) {
  margin-inline-start: auto;
}

.page-neighbours a[rel="prev"]::before {
  content: "← ";
}

.page-neighbours a[rel="next"]::after {
  content: " →";
}

${contentRules}
/* ---- On paper ---- */
@media print {
  :root {
    --ground: #fff;
    --text: #000;
    --accent: #000;
  }

  .skip-link,
  .site-menu,
  .section-menu,
  .page-neighbours,
  .page-children {
    display: none;
  }
}
`
}
