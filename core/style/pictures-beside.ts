/** The class of a list of pictures that stand side by side. */
export const besideClass = 'pictures'

/** Pictures of one height side by side, as many as there is room for; words below one are no wider than it is. */
export const besideRule = `.${besideClass} {
  display: flex;
  flex-wrap: wrap;
  gap: 1rem;
  margin: 1.5rem 0;
  padding: 0;
  list-style: none;
}

.${besideClass} img {
  display: block;
}

.${besideClass} figure {
  margin: 0;
}

.${besideClass} figcaption {
  contain: inline-size;
}
`

/** Whether a style sheet says anything of pictures side by side. */
export const saysBeside = (css: string): boolean => new RegExp(`\\.${besideClass}(?![\\w-])`).test(css)

/** A style sheet that says it, too, at its end. */
export const withBeside = (css: string): string =>
  `${css.trimEnd()}\n\n/* ---- Pictures side by side ---- */\n${besideRule}`.trimStart()
