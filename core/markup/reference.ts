/** A reference as it stands in a text. */
export interface Reference {
  /** Where the value stands, quotes excluded; UTF-16 offsets into the text. */
  readonly start: number
  readonly end: number
  /** The value with character references and escapes of its language resolved. */
  readonly href: string
  /** How the value has to be written there. */
  readonly syntax:
    | 'attribute'
    | 'unquoted-attribute'
    | 'srcset'
    | 'css-string'
    | 'css-url'
    /** In a string of ECMAScript or JSON. */
    | 'script-string'
    /** In a text or an attribute of XML. */
    | 'xml'
    /** Where nothing can be escaped: in a CDATA section of XML, in a line of text. */
    | 'plain'
  /** Of what stands in an attribute whose value has a syntax of its own: whether that attribute has quotes. */
  readonly inAttribute?: 'quoted' | 'unquoted'
  /** Of what stands in HTML that is written as a text of XML. */
  readonly inText?: true
  /** What holds it, for showing: `a href`, `@import`, `url()`. */
  readonly holder: string
  /**
   * A text that reads like a path, where nothing says that it is one: a reference where something stands there, and else
   * mere words.
   */
  readonly ifThere?: true
  /** Understood from the page that runs the script which holds it, and not from the script (HTML §2.4.1). */
  readonly fromPage?: true
}

const showing = new Set(['img src', 'img srcset', 'source srcset', 'video poster', 'input src'])

/** Whether a browser shows what a reference of this holder leads to as a picture (HTML §4.8.2, §4.8.3, §4.8.8, §4.10.5.1.19). */
export const showsPicture = (holder: string): boolean => showing.has(holder)
