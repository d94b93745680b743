import fs from 'node:fs'
import { createRequire } from 'node:module'
import path from 'node:path'
import zlib from 'node:zlib'
import { type Dictionary, dictionaryOf, type DictionaryName } from '#core/spelling'

/** Where the words of each language are: a package, and the list in it. */
const lists: Readonly<Record<DictionaryName, readonly [string, string]>> = {
  'en-GB': ['@cspell/dict-en-gb', 'en_GB.trie.gz'],
  'en-US': ['@cspell/dict-en_us', 'en_US.trie.gz'],
  da: ['@cspell/dict-da-dk', 'da_DK.trie'],
  de: ['@cspell/dict-de-de', 'de_DE.trie.gz'],
  es: ['@cspell/dict-es-es', 'Spanish.trie.gz'],
  fr: ['@cspell/dict-fr-fr', 'fr-fr.trie.gz'],
  nl: ['@cspell/dict-nl-nl', 'Dutch.trie.gz'],
  pl: ['@cspell/dict-pl_pl', 'pl_pl.trie.gz'],
  'pt-PT': ['@cspell/dict-pt-pt', 'dict/Portuguese-European.trie.gz'],
}

const { resolve } = createRequire(import.meta.url)
const read = new Map<DictionaryName, Dictionary>()

/** A dictionary that ships, kept once it is read: a quarter of a second to two, and some megabytes. */
export function dictionaryCalled(name: DictionaryName): Dictionary {
  let dictionary = read.get(name)
  if (!dictionary) {
    const [from, list] = lists[name]
    // What a package names as its own stands beside its list.
    const bytes = fs.readFileSync(path.join(path.dirname(resolve(from)), list))
    const words = list.endsWith('.gz') ? zlib.gunzipSync(bytes) : bytes
    read.set(name, (dictionary = dictionaryOf(new Uint8Array(words))))
  }
  return dictionary
}
