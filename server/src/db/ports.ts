/** What the rest of the server asks of a store beside its tables: another database offers the same. */

/** What the store offers to listeners. */
export interface Listening {
  listen(channel: string, heard: (payload: string) => void): Promise<() => Promise<void>>;
}
