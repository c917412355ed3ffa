/** Addresses of the pages beside the workspace: the application's router and the server both read this list. */
export const PAGE_ADDRESSES = ['songs', 'deliver', 'bring-in', 'devices', 'help', 'parts'] as const;
export type PageAddress = (typeof PAGE_ADDRESSES)[number];
