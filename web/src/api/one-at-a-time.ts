/**
 * Makes looks at the server follow each other: one asked for while another is on its way is done once more
 * afterwards. Two at the same time could answer in the wrong order, and the older answer would stay on screen.
 */
export function oneAtATime(look: () => Promise<void>): () => Promise<void> {
  let going: Promise<void> | null = null
  let again: Promise<void> | null = null
  const begin = (): Promise<void> => {
    const mine = look().finally(() => {
      if (going === mine) going = null
    })
    going = mine
    return mine
  }
  return () => {
    if (!going) return begin()
    again ??= going
      .catch(() => undefined)
      .then(() => {
        again = null
        return begin()
      })
    return again
  }
}
