/** The style sheet a new site starts with: plain rules in commented sections, meant to be changed. */
export const starterStyle = `/* ---- Colours and type: change these first ---- */
:root {
  --ground: #fdfcf9;
  --text: #23272b;
  --quiet: #596067;
  --line: #d9d5cb;
  --accent: #1d5c73;
  --measure: 42rem;
  color-scheme: light dark;
}

@media (prefers-color-scheme: dark) {
  :root {
    --ground: #16191c;
    --text: #e8e6e0;
    --quiet: #a5abb0;
    --line: #363b40;
    --accent: #8cc6dc;
  }
}

* {
  box-sizing: border-box;
}

body {
  margin: 0;
  background: var(--ground);
  color: var(--text);
  font: 1.0625rem/1.6 Georgia, "Times New Roman", serif;
}

/* ---- Headings ---- */
h1,
h2,
h3 {
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

/* ---- Links ---- */
a {
  color: var(--accent);
  text-underline-offset: 0.15em;
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
  left: -100vw;
}

.skip-link:focus {
  left: 1rem;
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
  padding-left: 1.2rem;
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
  padding-left: 1rem;
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
  margin-left: auto;
}

.page-neighbours a[rel="prev"]::before {
  content: "← ";
}

.page-neighbours a[rel="next"]::after {
  content: " →";
}

/* ---- Pictures ---- */
img,
svg {
  max-width: 100%;
  height: auto;
}

figure {
  margin: 1.5rem 0;
}

figcaption {
  color: var(--quiet);
  font-size: 0.9rem;
}

/* ---- Tables ---- */
table {
  border-collapse: collapse;
  margin: 1rem 0;
}

caption {
  padding-bottom: 0.5rem;
  color: var(--quiet);
  text-align: left;
}

th,
td {
  padding: 0.35rem 1.25rem 0.35rem 0;
  border-bottom: 1px solid var(--line);
  text-align: left;
  vertical-align: top;
}

/* ---- Quotations and asides ---- */
blockquote {
  margin: 1.5rem 0;
  padding-left: 1rem;
  border-left: 3px solid var(--accent);
}

/* ---- On paper ---- */
@media print {
  .skip-link,
  .site-menu,
  .section-menu,
  .page-neighbours,
  .page-children {
    display: none;
  }
}
`
