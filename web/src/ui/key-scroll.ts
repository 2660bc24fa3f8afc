import type { Directive } from 'vue'

const watchers = new WeakMap<HTMLElement, ResizeObserver>()
const scrolls = (e: HTMLElement) => e.scrollWidth > e.clientWidth || e.scrollHeight > e.clientHeight

/**
 * What scrolls can be scrolled with the arrow keys: it takes the focus while there is more than fits, and only then,
 * so that no Tab key stops for nothing. On a component it means the part of it that scrolls.
 */
export const vKeyScroll: Directive<HTMLElement> = {
  mounted(root) {
    const area = root.querySelector<HTMLElement>('.v-table__wrapper') ?? root
    const look = () => {
      if (scrolls(area)) area.tabIndex = 0
      else area.removeAttribute('tabindex')
    }
    const watcher = new ResizeObserver(look)
    watcher.observe(area)
    for (const inside of area.children) watcher.observe(inside)
    watchers.set(root, watcher)
  },
  beforeUnmount(root) {
    watchers.get(root)?.disconnect()
    watchers.delete(root)
  },
}
