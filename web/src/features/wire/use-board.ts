import { select } from 'd3-selection'
import { zoom, zoomIdentity, type ZoomTransform } from 'd3-zoom'
import { onBeforeUnmount, onMounted, shallowRef, toValue, watch, type MaybeRefOrGetter, type Ref } from 'vue'

const SMALLEST = 0.2
const LARGEST = 4
/** As large as a drawing of two parts is made to fill its board. */
const LARGEST_FIT = 1.5

export interface Board {
  readonly width: number
  readonly height: number
}

/**
 * A drawing on a board: fitted, zoomed by wheel, pinch and button, moved by dragging where nothing is taken hold of.
 * @param room - what lies over the board's top, px
 */
export function useBoard(
  svg: Readonly<Ref<SVGSVGElement | null>>,
  drawing: MaybeRefOrGetter<Board>,
  room: number,
) {
  const transform = shallowRef<ZoomTransform>(zoomIdentity)
  /** Somebody has looked closer: it is not fitted again behind their back. */
  let touched = false
  const behaviour = zoom<SVGSVGElement, unknown>()
    .scaleExtent([SMALLEST, LARGEST])
    .filter(
      (event: Event) =>
        !(event.target instanceof Element && event.target.closest('[data-terminal]') !== null) &&
        !(event instanceof MouseEvent && event.button !== 0),
    )
    .on('zoom', (event: { transform: ZoomTransform; sourceEvent: unknown }) => {
      transform.value = event.transform
      if (event.sourceEvent) touched = true
    })

  function fit(): void {
    const el = svg.value
    if (!el) return
    const { clientWidth: width, clientHeight: height } = el
    const size = toValue(drawing)
    if (width === 0 || height === 0) return
    const k = Math.min(LARGEST_FIT, width / size.width, (height - room) / size.height)
    const to = zoomIdentity
      .translate((width - k * size.width) / 2, room + Math.max(0, (height - room - k * size.height) / 2))
      .scale(k)
    behaviour.transform(select(el), to)
    touched = false
  }
  const by = (factor: number) => {
    touched = true
    if (svg.value) behaviour.scaleBy(select(svg.value), factor)
  }
  /** Moves what is seen, px on the screen. */
  const move = (x: number, y: number) => {
    touched = true
    if (svg.value) behaviour.translateBy(select(svg.value), x / transform.value.k, y / transform.value.k)
  }
  /** A point on the screen as a point of the drawing. */
  function toDrawing(event: { clientX: number; clientY: number }): { x: number; y: number } {
    const box = svg.value?.getBoundingClientRect()
    const [x, y] = transform.value.invert([event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0)])
    return { x, y }
  }

  let observer: ResizeObserver | null = null
  onMounted(() => {
    if (!svg.value) return
    behaviour(select(svg.value))
    select(svg.value).on('dblclick.zoom', null)
    observer = new ResizeObserver(() => {
      if (!touched) fit()
    })
    observer.observe(svg.value)
    fit()
  })
  onBeforeUnmount(() => observer?.disconnect())
  watch(
    () => [toValue(drawing).width, toValue(drawing).height],
    () => {
      if (!touched) fit()
    },
    { flush: 'post' },
  )
  return { transform, fit, by, move, toDrawing }
}
