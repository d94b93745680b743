import { besideRule } from './pictures-beside'

/** Rules for what pages say beside headings, words and links: the same whatever is chosen. */
export const contentRules = `/* ---- Lists ---- */
ul,
ol {
  padding-inline-start: 1.5rem;
}

dt {
  font-weight: bold;
}

dd {
  margin: 0 0 0.75rem 1.5rem;
}

/* ---- Pictures ---- */
img,
svg,
video {
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

${besideRule}
/* ---- Tables ---- */
table {
  border-collapse: collapse;
  margin: 1rem 0;
}

caption {
  padding-bottom: 0.5rem;
  color: var(--quiet);
  text-align: start;
}

th,
td {
  padding: 0.35rem 1.25rem 0.35rem 0;
  border-bottom: 1px solid var(--line);
  text-align: start;
  vertical-align: top;
}

/* ---- Quotations ---- */
blockquote {
  margin: 1.5rem 0;
  padding-inline-start: 1rem;
  border-inline-start: 3px solid var(--accent);
}

/* ---- Forms ---- */
label {
  display: block;
  margin: 1rem 0 0.25rem;
}

input:not([type="checkbox"], [type="radio"]),
select,
textarea {
  width: min(100%, 24rem);
  padding: 0.45rem 0.6rem;
  border: 1px solid var(--quiet);
  background: var(--ground);
  color: inherit;
  font: inherit;
}

button {
  margin-top: 1rem;
  padding: 0.5rem 1.1rem;
  border: 0;
  background: var(--accent);
  color: var(--ground);
  font: inherit;
  cursor: pointer;
}

:is(button, input, select, textarea):focus-visible {
  outline: 3px solid var(--accent);
  outline-offset: 2px;
}
`
