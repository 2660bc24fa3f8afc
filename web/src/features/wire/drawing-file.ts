/** What an element's style says that a picture needs when it stands alone. */
const KEPT = [
  'fill',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'stroke-linejoin',
  'paint-order',
  'font-family',
  'font-size',
  'font-weight',
  'text-anchor',
] as const

/** The drawing as a file of its own: the same picture with its styles written into it. */
export function drawingFile(svg: SVGSVGElement): string {
  const copy = svg.cloneNode(true) as SVGSVGElement
  const from = [svg, ...svg.querySelectorAll('*')]
  const to = [copy, ...copy.querySelectorAll('*')]
  to.forEach((el, i) => {
    const source = from[i]
    if (!source) return
    const style = getComputedStyle(source)
    for (const name of KEPT) {
      const value = style.getPropertyValue(name)
      if (value) el.setAttribute(name, value)
    }
    for (const name of ['class', 'style', 'tabindex', 'role', 'aria-pressed']) el.removeAttribute(name)
    for (const a of [...el.attributes]) if (a.name.startsWith('data-')) el.removeAttribute(a.name)
  })
  const [, , width = '800', height = '400'] = (svg.getAttribute('viewBox') ?? '').split(' ')
  copy.setAttribute('width', width)
  copy.setAttribute('height', height)
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  return `<?xml version="1.0" encoding="UTF-8"?>\n${new XMLSerializer().serializeToString(copy)}\n`
}
