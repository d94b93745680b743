import { tableOf } from '#core/site'
import { TokenizerMode } from 'parse5'

/** Elements whose text holds no tags, and how a tokenizer reads on after their start tag (HTML §13.2.6.4). */
export const textOnly = tableOf<number>({
  script: TokenizerMode.SCRIPT_DATA,
  style: TokenizerMode.RAWTEXT,
  xmp: TokenizerMode.RAWTEXT,
  iframe: TokenizerMode.RAWTEXT,
  noembed: TokenizerMode.RAWTEXT,
  noframes: TokenizerMode.RAWTEXT,
  textarea: TokenizerMode.RCDATA,
  title: TokenizerMode.RCDATA,
  plaintext: TokenizerMode.PLAINTEXT,
})
