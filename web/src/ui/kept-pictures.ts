import { del, get, set } from 'idb-keyval'

const nameOf = (what: string) => `calm-pictures-${what}`

/**
 * Photographs that are not sent yet, as data addresses: they survive a closed lid. Too large for what holds the words of
 * a draft. Where the browser refuses them (no room, or not allowed) they stay on the page until they are sent.
 */
export const keptPictures = {
  of: async (what: string): Promise<readonly string[]> =>
    (await get<string[]>(nameOf(what)).catch(() => undefined)) ?? [],
  keep: async (what: string, pictures: readonly string[]): Promise<void> => {
    await (pictures.length > 0 ? set(nameOf(what), [...pictures]) : del(nameOf(what))).catch(() => undefined)
  },
}
