/** Why files are no pages of a site; and where to go with texts, which have no frame to be found. */
export function whyNoPage(files: readonly { readonly path: string }[]): string {
  const none = 'There is no page among these files: none is called .html or .htm.'
  const haveTexts = files.some(({ path }) => /\.(docx|odt|md|markdown|txt)$/i.test(path))
  return haveTexts
    ? `${none} Texts and documents become pages when they are dropped on a site’s list of pages.`
    : none
}
