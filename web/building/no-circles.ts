import type { Plugin } from 'vite'

/** Every file that can be come back to through the files it imports. */
export function inCircles(importsOf: ReadonlyMap<string, readonly string[]>): string[] {
  const comesBack = (from: string): boolean => {
    const seen = new Set<string>()
    const ahead = [...(importsOf.get(from) ?? [])]
    for (let next = ahead.pop(); next !== undefined; next = ahead.pop()) {
      if (next === from) return true
      if (seen.has(next)) continue
      seen.add(next)
      ahead.push(...(importsOf.get(next) ?? []))
    }
    return false
  }
  return [...importsOf.keys()].filter(comesBack)
}

/** Files that import each other run before what they need is there; the page would break, the build does instead. */
export function noCircles(): Plugin {
  return {
    name: 'calm-no-circles',
    apply: 'build',
    generateBundle(_, bundle) {
      const chunks = Object.values(bundle).filter((c) => c.type === 'chunk')
      const circle = inCircles(new Map(chunks.map((c) => [c.fileName, c.imports])))
      if (circle.length) this.error(`These files import each other: ${circle.join(', ')}. Change the groups.`)
    },
  }
}
