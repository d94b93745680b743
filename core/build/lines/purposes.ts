import { tableOf } from '#core/site'
/** What an element is for, in one plain sentence, and the section of the HTML Standard that says so. */
export interface Purpose {
  readonly words: string
  readonly section: string
}

const of = (section: string, words: string): Purpose => ({ section, words })

/** By element. */
export const elementPurposes = tableOf<Purpose>({
  html: of('4.1.1', 'The whole page. Its lang tells browsers and screen readers which language it is in.'),
  head: of('4.2.1', 'What is said about the page and not shown in it.'),
  title: of('4.2.2', 'What the tab, a bookmark and a list of results call the page.'),
  base: of('4.2.3', 'Where all relative addresses of the page start from.'),
  link: of('4.2.4', 'Another file that belongs to the page.'),
  meta: of('4.2.5', 'Something said about the page.'),
  style: of('4.2.6', 'Style rules for this page alone.'),
  body: of('4.3.1', 'What is shown.'),
  article: of('4.3.2', 'Something that would stand by itself elsewhere, too.'),
  section: of('4.3.3', 'A part of the page with a heading of its own.'),
  nav: of('4.3.4', 'A list of links to find the way; a landmark that screen readers can jump to.'),
  aside: of('4.3.5', 'Something beside the text, a landmark of its own.'),
  h1: of('4.3.6', 'The page’s first heading; there is one of it.'),
  h2: of('4.3.6', 'A heading of the second level.'),
  h3: of('4.3.6', 'A heading of the third level.'),
  h4: of('4.3.6', 'A heading of the fourth level.'),
  h5: of('4.3.6', 'A heading of the fifth level.'),
  h6: of('4.3.6', 'A heading of the sixth level.'),
  hgroup: of('4.3.7', 'A heading with what belongs to it.'),
  header: of('4.3.8', 'What introduces the page or a part of it.'),
  footer: of('4.3.9', 'What ends the page or a part of it: who made it, what else there is.'),
  address: of('4.3.10', 'How to reach who wrote this.'),
  p: of('4.4.1', 'A paragraph.'),
  hr: of('4.4.2', 'A change of subject, shown as a rule.'),
  pre: of('4.4.3', 'Text whose spaces and line breaks count.'),
  blockquote: of('4.4.4', 'Something quoted from elsewhere.'),
  ol: of('4.4.5', 'A list whose order matters.'),
  ul: of('4.4.6', 'A list whose order does not matter.'),
  menu: of('4.4.7', 'A list of things to do.'),
  li: of('4.4.8', 'An entry of a list.'),
  dl: of('4.4.9', 'A list of terms and what is said of each.'),
  dt: of('4.4.10', 'A term of such a list.'),
  dd: of('4.4.11', 'What is said of a term.'),
  figure: of('4.4.12', 'A picture or the like, with its caption.'),
  figcaption: of('4.4.13', 'The caption of a figure.'),
  main: of('4.4.14', 'What this page is about: without menus and all that is the same on every page.'),
  search: of('4.4.15', 'The fields to search with.'),
  div: of('4.4.16', 'A box without a meaning of its own, for style.'),
  a: of('4.5.1', 'A link.'),
  em: of('4.5.2', 'Stress, as a voice would put it.'),
  strong: of('4.5.3', 'Something important.'),
  small: of('4.5.4', 'Small print.'),
  s: of('4.5.5', 'Something that is no longer so.'),
  cite: of('4.5.6', 'The title of a work.'),
  q: of('4.5.7', 'A quotation within a sentence.'),
  dfn: of('4.5.8', 'A term where it is defined.'),
  abbr: of('4.5.9', 'An abbreviation.'),
  ruby: of('4.5.10', 'Text with how it is said beside it.'),
  data: of('4.5.13', 'A value for machines.'),
  time: of('4.5.14', 'A date or time, for machines as well.'),
  code: of('4.5.15', 'A piece of computer text.'),
  var: of('4.5.16', 'A variable.'),
  samp: of('4.5.17', 'What a computer says.'),
  kbd: of('4.5.18', 'What a person types.'),
  sub: of('4.5.19', 'A subscript.'),
  sup: of('4.5.19', 'A superscript.'),
  i: of('4.5.20', 'Text in another voice: a name of a ship, a foreign word.'),
  b: of('4.5.21', 'Words to be noticed.'),
  u: of('4.5.22', 'Words marked as wrong or as a name.'),
  mark: of('4.5.23', 'Words marked for a reason of now.'),
  bdi: of('4.5.24', 'Text whose direction is kept apart.'),
  bdo: of('4.5.25', 'Text whose direction is given.'),
  span: of('4.5.26', 'Words without a meaning of their own, for style.'),
  br: of('4.5.27', 'A line break that is part of the text.'),
  wbr: of('4.5.28', 'A place where a long word may break.'),
  ins: of('4.7.1', 'Something added.'),
  del: of('4.7.2', 'Something taken out.'),
  picture: of('4.8.1', 'A picture in several forms, of which the browser takes one.'),
  source: of('4.8.2', 'One of the forms.'),
  img: of('4.8.3', 'A picture. Its alt stands in for it where it is not seen.'),
  iframe: of('4.8.5', 'Another page within this one.'),
  embed: of('4.8.6', 'Something shown by another program.'),
  object: of('4.8.7', 'Something from a file, with what stands in for it.'),
  video: of('4.8.8', 'A film.'),
  audio: of('4.8.9', 'A sound.'),
  track: of('4.8.10', 'Subtitles or the like.'),
  svg: of('4.8.16', 'A drawing, written in the page.'),
  math: of('4.8.15', 'A formula, written in the page.'),
  table: of('4.9.1', 'A table: rows and columns with headers.'),
  caption: of('4.9.2', 'What a table is called.'),
  colgroup: of('4.9.3', 'Columns of a table together.'),
  col: of('4.9.4', 'A column of a table.'),
  tbody: of('4.9.5', 'The rows of a table.'),
  thead: of('4.9.6', 'The rows with a table’s headers.'),
  tfoot: of('4.9.7', 'The rows that sum a table up.'),
  tr: of('4.9.8', 'A row.'),
  td: of('4.9.9', 'A cell.'),
  th: of('4.9.10', 'A header of a row or a column.'),
  form: of('4.10.3', 'Fields that are sent together.'),
  label: of('4.10.4', 'What a field is called.'),
  input: of('4.10.5', 'A field.'),
  button: of('4.10.6', 'Something to press.'),
  select: of('4.10.7', 'A field to choose in.'),
  option: of('4.10.10', 'One of the choices.'),
  textarea: of('4.10.11', 'A field of several lines.'),
  fieldset: of('4.10.15', 'Fields that belong together.'),
  legend: of('4.10.16', 'What a group of fields is called.'),
  details: of('4.11.1', 'Something that unfolds.'),
  summary: of('4.11.2', 'What is seen of it while it is folded.'),
  dialog: of('4.11.4', 'A window within the page.'),
  script: of('4.12.1', 'A program that the page runs.'),
  noscript: of('4.12.2', 'What is shown where no program runs.'),
  template: of('4.12.3', 'A piece that a program uses, and that is not shown.'),
  canvas: of('4.12.5', 'A sheet that a program draws on.'),
})

/** Sharper than the element alone: by `element attribute=value`, `element attribute` or `element .class`. */
export const sharperPurposes = tableOf<Purpose>({
  'meta charset': of('4.2.5.4', 'Says which bytes stand for which letters; without it, accents may turn into signs.'), // prettier-ignore
  'meta name=viewport': of('4.2.5.1', 'Fits the page to the width of what it is read on: without it a phone shows it small.'), // prettier-ignore
  'meta name=description': of('4.2.5.1', 'The sentence that a list of results shows below the title.'),
  'meta name=author': of('4.2.5.1', 'Who wrote the page.'),
  'meta http-equiv=refresh': of('4.2.5.3', 'Leads on to another address by itself.'),
  'link rel=stylesheet': of('4.6.7.23', 'The style sheet: how the page looks.'),
  'link rel=icon': of('4.6.7.7', 'The small picture in the tab.'),
  'link hreflang': of('4.6.7.1', 'Tells search engines where the page is in a language, so that they show people the one they read.'), // prettier-ignore
  'link type=application/atom+xml': of('4.6.7.1', 'Names the feed: who follows it is told of what is new.'),
  'script defer': of('4.12.1', 'A program that runs once the page has been read.'),
  'script type=module': of('4.12.1', 'A program, as a module; it runs once the page has been read.'),
  'a .skip-link': of('4.5.1', 'Leads past the menu to the text, for those who do not use a mouse (WCAG 2.2, 2.4.1).'), // prettier-ignore
  'a hreflang': of('4.6.3', 'A link to a page in another language, which hreflang says.'),
  'a aria-current=page': of('4.5.1', 'The page itself in its menu: without an address, since it leads nowhere else.'), // prettier-ignore
  'a aria-current=true': of('4.5.1', 'A link to the section that the page stands in, marked as such.'),
})

export const doctypePurpose = of('13.1.1', 'Has browsers read the page as the standard says, and not as those of the 1990s did.') // prettier-ignore
export const oldDoctypePurpose = of('13.2.6.4.1', 'A doctype of the first: browsers read the page as those of the 1990s did. <!DOCTYPE html> ends that.') // prettier-ignore
export const commentPurpose = of('13.1.6', 'A comment: nobody sees it but who reads the source.')
export const textPurpose = of('3.2.5.2.5', 'Text that goes on.')
export const emptyPurpose = of('13.1', 'An empty line, for who reads the source.')
export const unknownPurpose = of('4.13', 'An element of a program’s own making.')
