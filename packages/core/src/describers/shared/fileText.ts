/** What Node and browsers call TextDecoder; handed in, for the language itself has none. */
export type Decoder = new (
  label: string,
  options?: { fatal?: boolean },
) => { decode: (bytes: Uint8Array) => string };

/** The text of a description file: UTF-8 where it is that, else Latin-1, as older files are. */
export function fileText(bytes: Uint8Array, TextDecoder: Decoder): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('latin1').decode(bytes);
  }
}
