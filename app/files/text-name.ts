/** Whether a file is a text that could be a page, by its name. */
export const couldBePage = (name: string): boolean => /\.(txt|text|md|markdown|html?)$/i.test(name)
