/**
 * Pages are made in the browser: it holds the whole cell anyway, for every edit, and what the server would draw of it
 * would be drawn a second time there.
 */
export const ssr = false;
