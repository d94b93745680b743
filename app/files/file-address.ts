/** Where the window has a file of the site from. */
export const fileAddress = (siteId: string, fileId: string): string => `/sites/${siteId}/files/${fileId}`
