/** How files of a course come by themselves: put into a folder, mailed to an address, or fetched from a link. */
export const FEED_KINDS = ['folder', 'mail', 'link'] as const;
export type FeedKind = (typeof FEED_KINDS)[number];

/** Files go on by themselves, or nobody looks for them until somebody says so. */
export const FEED_SWITCHES = ['on', 'paused'] as const;
export type FeedSwitch = (typeof FEED_SWITCHES)[number];

/**
 * What became of a file that came: it waits for its turn; it is unlike the last, so that somebody has to look; it is in; it
 * is the same as the one before; somebody left it out.
 */
export const FEED_FILE_STATES = ['waiting', 'unlike', 'in', 'same', 'left out'] as const;
export type FeedFileState = (typeof FEED_FILE_STATES)[number];
