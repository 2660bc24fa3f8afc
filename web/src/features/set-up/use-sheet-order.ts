import { settings } from '@calm/contract/api/addresses'
import type { SheetLine } from '@calm/core/family/family'
import { inOrder, moved, orderedDevices, orderName, orderOf } from '@calm/core/loop/sheet-order'
import { computed, nextTick, onScopeDispose, ref, shallowRef, type Ref } from 'vue'
import { call, sayProblem } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'

/**
 * The lines of a sheet in the order in which the plant's devices of this kind ask for them, and how it is changed:
 * dragged, or moved by arrows, and kept once for all of them.
 * @param device - how the plant calls its device; empty where all of a kind ask alike
 * @param body - what holds the lines on screen; each line has the class `line` and a grip of the class `grip`
 */
export function useSheetOrder(
  sheet: () => readonly SheetLine[],
  family: () => string,
  device: () => string,
  body: Readonly<Ref<HTMLElement | null>>,
) {
  const rules = useLive(settings.rules, {})
  /** While it is changed, the order that is on screen. */
  const ordering = shallowRef<readonly string[] | null>(null)
  const says = shallowRef<string | null>(null)
  /** Counts up when what was dragged is drawn anew from the list. */
  const drawn = ref(0)
  const lines = computed(() =>
    inOrder(sheet(), ordering.value ?? orderOf(rules.data.value?.sheetOrder ?? {}, family(), device())),
  )
  const devices = computed(() => orderedDevices(rules.data.value?.sheetOrder ?? {}, family()))
  let stop: (() => void) | null = null
  const move = (from: number, to: number) => (ordering.value = moved(lines.value, from, to))

  async function grips(): Promise<void> {
    const { default: Sortable } = await import('sortablejs')
    await nextTick()
    if (!body.value || ordering.value === null) return
    stop?.()
    const sortable = Sortable.create(body.value, {
      handle: '.grip',
      draggable: '.line',
      animation: 0,
      // By the pointer, the same for a mouse and a gloved finger.
      forceFallback: true,
      onEnd: ({ oldDraggableIndex: from, newDraggableIndex: to }) => {
        if (from === undefined || to === undefined || from === to) return
        move(from, to)
        drawn.value++
        void grips()
      },
    })
    stop = () => {
      sortable.destroy()
      stop = null
    }
  }
  function begin(): void {
    says.value = null
    ordering.value = lines.value.map((l) => l.says)
    void grips()
  }
  function end(): void {
    stop?.()
    ordering.value = null
  }
  /** @param asItWas - back to the order of the program */
  async function keep(asItWas: boolean): Promise<void> {
    try {
      const kept = asItWas ? [] : lines.value.map((l) => l.says)
      await call(settings.changeRules, {}, { sheetOrder: { [orderName(family(), device())]: kept } })
      end()
    } catch (error) {
      says.value = sayProblem(error)
    }
  }
  onScopeDispose(() => stop?.())
  return { lines, devices, ordering, drawn, says, begin, end, keep, move }
}
