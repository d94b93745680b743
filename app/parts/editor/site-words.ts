import type { CompletionContext, CompletionResult } from '@codemirror/autocomplete'
import { cssLanguage } from '@codemirror/lang-css'
import { htmlLanguage } from '@codemirror/lang-html'
import { syntaxTree } from '@codemirror/language'
import type { Extension } from '@codemirror/state'
import { entryValues, translationValues, valueNames } from '#core/template'
import { linkCompletion, type LinkTarget } from './link-completion'

/** What an editor knows of the site that its text belongs to. The same object each time. */
export interface SiteWords {
  /** What addresses can lead to now. */
  readonly links: () => readonly LinkTarget[]
  /** Why an address leads nowhere, and the address that was most likely meant; null where it leads somewhere. */
  readonly lost: (href: string) => { readonly words: string; readonly near: string | null } | null
  /** The site's style sheets. */
  readonly styles: () => Promise<readonly string[]>
  /** What the page that an address leads to holds; nothing for any other address. */
  readonly textsAt: (href: string) => Promise<readonly string[]>
  /** The sources of its templates. */
  readonly templates: () => Promise<readonly string[]>
}

const unique = (names: Iterable<string>) => [...new Set(names)].sort()
const listOf = (pattern: RegExp, texts: readonly string[]) =>
  texts.flatMap((text) => [...text.matchAll(pattern)].map((match) => match[1]!))

const classesKnown = new Map<string, readonly string[]>()

/** The classes that a style sheet has rules for. */
function classesIn(css: string): readonly string[] {
  let classes = classesKnown.get(css)
  if (!classes) {
    const found: string[] = []
    cssLanguage.parser.parse(css).iterate({
      enter(node) {
        if (node.name === 'ClassName') found.push(css.slice(node.from, node.to))
      },
    })
    // A handful are in use at a time; older ones came from typing.
    if (classesKnown.size > 20) classesKnown.clear()
    classesKnown.set(css, (classes = unique(found)))
  }
  return classes
}

const optionsOf = (names: readonly string[], type: string, detail?: string) =>
  names.map((label) => ({ label, type, ...(detail && { detail }) }))

/** Attributes that name places of the page by their ids (HTML, WAI-ARIA 1.2 §6.6). */
const inIds =
  /\b(?:for|form|list|headers|aria-(?:labelledby|describedby|controls|owns|details|flowto|activedescendant|errormessage))\s*=\s*(["'])(?:[^"'<>]*\s)?([^"'<>\s]*)$/i
/** A place in a page: of this one where no address stands before it. */
const inPlace = /\bhref\s*=\s*(["'])([^"'<>\s#]*)#([^"'<>\s]*)$/i
const inClass = /\bclass\s*=\s*(["'])(?:[^"'<>]*\s)?([^"'<>\s]*)$/i
const inSlotName = /<(?:slot\s[^<>]*?\bname|template\s[^<>]*?\bslot)\s*=\s*(["'])([^"'<>]*)$/i
const inValue = /\{([A-Za-z_][\w.]*|)$/

const idsIn = (texts: readonly string[]) => listOf(/\sid\s*=\s*["']?([^"'<>\s]+)/gi, texts)
const slotsIn = (templates: readonly string[]) =>
  listOf(/<slot\b[^<>]*?\bname\s*=\s*["']?([^"'<>\s]+)/gi, templates)

/** Completes classes, ids and addresses; in a template slots and values too. */
const inHtml = (words: SiteWords, isTemplate: boolean) =>
  htmlLanguage.data.of({
    async autocomplete({ state, pos }: CompletionContext): Promise<CompletionResult | null> {
      const before = state.doc.sliceString(Math.max(0, pos - 1_000), pos)
      const classes = inClass.exec(before)
      const [, , there = '', ofPlace] = inPlace.exec(before) ?? []
      const ids = inIds.exec(before)
      const slot = isTemplate ? inSlotName.exec(before) : null
      const value = isTemplate ? inValue.exec(before) : null
      const typed = classes?.[2] ?? ofPlace ?? ids?.[2] ?? slot?.[2] ?? value?.[1]
      if (typed === undefined) return null
      const options = classes
        ? optionsOf(unique((await words.styles()).flatMap(classesIn)), 'class')
        : ofPlace !== undefined || ids
          ? there === ''
            ? optionsOf(unique(idsIn([state.doc.toString()])), 'constant', 'in this text')
            : optionsOf(unique(idsIn(await words.textsAt(there))), 'constant', 'in that page')
          : slot
            ? optionsOf(unique(slotsIn(await words.templates())), 'variable', 'slot')
            : optionsOf([...valueNames, ...translationValues, ...entryValues], 'variable', 'value')
      return { from: pos - typed.length, options, validFor: /^[\w.-]*$/ }
    },
  })

/** Completes the classes that templates give to what a style sheet is for. */
const inCss = (words: SiteWords) =>
  cssLanguage.data.of({
    async autocomplete({ state, pos }: CompletionContext): Promise<CompletionResult | null> {
      const typed = /\.([\w-]*)$/.exec(state.doc.sliceString(Math.max(0, pos - 100), pos))?.[1]
      if (typed === undefined || /^\d/.test(typed)) return null
      // Within a rule's braces a dot belongs to a number.
      for (let node = syntaxTree(state).resolveInner(pos, -1); node.parent; node = node.parent)
        if (node.name === 'Declaration' || node.name === 'NumberLiteral') return null
      const templates = await words.templates()
      const named = listOf(/\bclass\s*=\s*["']([^"']+)["']/gi, templates).flatMap((list) => list.split(/\s+/))
      const generated = listOf(/<((?:site|page)-[\w-]+)/gi, templates)
      const options = optionsOf(unique([...named, ...generated].filter(Boolean)), 'class', 'in a template')
      return { from: pos - typed.length, options, validFor: /^[\w-]*$/ }
    },
  })

/** Completion of all that a site has a word for. */
export function siteWords(words: SiteWords, as: 'html' | 'template' | 'css'): Extension {
  if (as === 'css') return inCss(words)
  return [linkCompletion(words.links), inHtml(words, as === 'template')]
}
