import type { Rule } from '../../rule'

/** A content that breaks the HTML syntax; browsers guess what was meant, each page anew. */
export const markupError: Rule = {
  id: 'markup-error',
  grade: 'hinders',
  title: 'HTML that a browser has to guess at',
  why: 'A browser has to guess what was meant, and what comes after may be shown wrongly.',
  reads: 'text',
  find: ({ errors }, at, was) => {
    const seen = new Map<string, number>()
    return errors.map((error) => {
      const index = seen.get(error.code) ?? 0
      seen.set(error.code, index + 1)
      return {
        mark: `${error.code} ${index}`,
        place: at(error),
        what: markupSentence(error.code),
        // It is missed where it belongs.
        ...(error.code === lacksSemicolon && {
          mends: [
            { words: 'Write the “;”', edits: [{ start: error.start, end: error.start, text: ';' }], was },
          ],
        }),
        ...(error.code === lacksDoctype && {
          mends: [
            { words: 'Write <!DOCTYPE html>', edits: [{ start: 0, end: 0, text: '<!DOCTYPE html>\n' }], was },
          ],
        }),
      }
    })
  },
}

const lacksDoctype = 'missing-doctype'
const lacksSemicolon = 'missing-semicolon-after-character-reference'

const oddDoctype = 'The doctype is not written as any is; “<!DOCTYPE html>” is today’s.'

/** What the standard's errors mean to whoever typed (HTML §13.2.2, "Parse errors"). */
const sentences: Readonly<Record<string, string>> = {
  'abandoned-head-element-child': 'Something that belongs in the head stands after its end.',
  'abrupt-doctype-public-identifier': oddDoctype,
  'abrupt-doctype-system-identifier': oddDoctype,
  'abrupt-closing-of-empty-comment': 'A comment is closed before it has begun.',
  'absence-of-digits-in-numeric-character-reference': 'A character is given by number, but the number is missing.',
  'cdata-in-html-content': 'A CDATA section stands in HTML, where it is only a comment.',
  'character-reference-outside-unicode-range': 'A character is given by a number that no character has.',
  'closing-of-element-with-open-child-elements': 'An element is closed while others inside it are still open.',
  'control-character-in-input-stream': 'An invisible control character stands in the text.',
  'control-character-reference': 'An invisible control character is given by number.',
  'disallowed-content-in-noscript-in-head': 'Something stands in “noscript” that may not stand in the head.',
  'duplicate-attribute': 'An attribute is given twice in one tag; the second one counts for nothing.',
  'end-tag-with-attributes': 'A closing tag has attributes, which count for nothing.',
  'end-tag-with-trailing-solidus': 'A closing tag ends in “/>”.',
  'end-tag-without-matching-open-element': 'A closing tag closes nothing that is open.',
  'eof-before-tag-name': 'The text ends in the middle of a tag.',
  'eof-in-cdata': 'The text ends in the middle of a CDATA section.',
  'eof-in-comment': 'The text ends in the middle of a comment.',
  'eof-in-doctype': 'The text ends in the middle of the doctype.',
  'eof-in-element-that-can-contain-only-text': 'The text ends before an element that was opened is closed.',
  'eof-in-script-html-comment-like-text': 'The text ends in the middle of a script.',
  'eof-in-tag': 'A tag begins here and does not end: a “>” or a quotation mark is missing, and what follows is not shown.',
  'incorrectly-closed-comment': 'A comment is closed by “--!>” where “-->” closes it.',
  'incorrectly-opened-comment': 'Something begins with “<!” that is neither a comment nor a doctype.',
  'invalid-character-sequence-after-doctype-name': 'The doctype says more than a browser knows.',
  'invalid-first-character-of-tag-name': 'A “<” stands before something that is no tag; write “&lt;” for the sign itself.',
  'missing-attribute-value': 'An attribute has a “=” and no value.',
  'missing-doctype': 'No doctype stands at the front, so that browsers draw the page as in the 1990s.',
  'missing-doctype-name': oddDoctype,
  'missing-doctype-public-identifier': oddDoctype,
  'missing-doctype-system-identifier': oddDoctype,
  'missing-end-tag-name': 'A closing tag has no name.',
  'missing-quote-before-doctype-public-identifier': oddDoctype,
  'missing-quote-before-doctype-system-identifier': oddDoctype,
  'missing-semicolon-after-character-reference': 'A character’s name or number lacks its “;”.',
  'missing-whitespace-after-doctype-public-keyword': oddDoctype,
  'missing-whitespace-after-doctype-system-keyword': oddDoctype,
  'missing-whitespace-before-doctype-name': oddDoctype,
  'missing-whitespace-between-attributes': 'Two attributes stand together without a space between them.',
  'missing-whitespace-between-doctype-public-and-system-identifiers': oddDoctype,
  'misplaced-doctype': 'The doctype stands in the middle of the page.',
  'misplaced-start-tag-for-head-element': 'Something that belongs in the head stands outside it.',
  'nested-comment': 'A comment is opened inside another one.',
  'nested-noscript-in-head': 'A “noscript” stands inside another one.',
  'non-conforming-doctype': 'The doctype is an old one; “<!DOCTYPE html>” is today’s.',
  'non-void-html-element-start-tag-with-trailing-solidus': 'A tag ends in “/>”, which does not close it.',
  'noncharacter-character-reference': 'A character is given by a number that stands for none.',
  'noncharacter-in-input-stream': 'A sign stands in the text that is no character.',
  'null-character-reference': 'The character of number 0 is given, which no text may have.',
  'open-elements-left-after-eof': 'The text ends while elements are still open.',
  'surrogate-character-reference': 'Half a character is given by number.',
  'surrogate-in-input-stream': 'Half a character stands in the text.',
  'unexpected-character-after-doctype-system-identifier': 'The doctype goes on after its end.',
  'unexpected-character-in-attribute-name': 'A quotation mark or “<” stands in an attribute’s name.',
  'unexpected-character-in-unquoted-attribute-value': 'A value without quotation marks has a sign in it that needs them.',
  'unexpected-equals-sign-before-attribute-name': 'A “=” stands before an attribute’s name.',
  'unexpected-null-character': 'The character of number 0 stands in the text.',
  'unexpected-question-mark-instead-of-tag-name': 'A “<?” stands here, which HTML does not know.',
  'unexpected-solidus-in-tag': 'A “/” stands in the middle of a tag.',
  'unknown-named-character-reference': 'A character is called by a name that no character has; write “&amp;” for the sign itself.',
} // prettier-ignore

/** An error of the standard as a sentence; one it does not name yet is told as what it is. */
export const markupSentence = (code: string): string =>
  sentences[code] ?? 'Something here is no HTML that the standard knows.'
