import { inSign, type DecimalSign } from '@calm/core/quantity/decimal-sign'
import { createRequire } from 'node:module'
import type { Content, ContentStack, TDocumentDefinitions } from 'pdfmake/interfaces.js'
import { svgInSign } from './svg-in-sign.ts'

/**
 * The structure of a paper for who hears it instead of seeing it: headings, paragraphs, tables with their rows, cells
 * and head cells, figures with their words. The PDF library lays pages out and writes tagged files, but it does not
 * say what is what; here each thing it draws is put into the element that it belongs to, and lines, rules, heads and
 * feet of pages are told to be decoration.
 * @see ISO 32000-1, 14.8 (tagged PDF); ISO 14289-1
 */
type Role = 'Document' | 'H1' | 'H2' | 'P' | 'Table' | 'TR' | 'TH' | 'TD' | 'L' | 'LI' | 'Figure'
class Tag {
  readonly children: Tag[] = []
  constructor(
    readonly role: Role,
    readonly parent: Tag | null,
    readonly more: { readonly alt?: string; readonly scope?: 'Row' | 'Column' } = {},
  ) {
    parent?.children.push(this)
  }
  get root(): Tag {
    return this.parent?.root ?? this
  }
}
const DECORATION = Symbol('decoration')
type Told = Tag | typeof DECORATION

/** A node as the library takes it, with what it is put beside it. */
interface Node {
  text?: unknown
  stack?: unknown[]
  columns?: unknown[]
  ul?: unknown[]
  svg?: string
  table?: { body: unknown[][]; headerRows?: number }
  layout?: unknown
  bold?: boolean
  fontSize?: number
  /** What a figure shows, in words. */
  alt?: string
  id?: string
  told?: Told
}
const LARGE = 16
const HEADING = 11

/** Marks what stands on a paper: every piece of text and every figure gets the element it belongs to. */
class Marking {
  private count = 0
  constructor(private readonly sign: DecimalSign) {}
  private name(): string {
    this.count += 1
    // The library hands a node on to where it is drawn only when it has a name.
    return `t${this.count}`
  }
  mark(given: unknown, at: Tag | typeof DECORATION): unknown {
    if (typeof given === 'string' || typeof given === 'number') return this.mark({ text: String(given) }, at)
    if (Array.isArray(given)) return given.map((x) => this.mark(x, at))
    if (given === null || typeof given !== 'object') return given
    const node = { ...given } as Node
    if (node.stack) node.stack = node.stack.map((x) => this.mark(x, at))
    else if (node.ul) {
      const list = at === DECORATION ? at : new Tag('L', at)
      node.ul = node.ul.map((x) => this.mark(x, list === DECORATION ? list : new Tag('LI', list)))
    } else if (node.columns) node.columns = node.columns.map((x) => this.mark(x, at))
    else if (node.table) node.table = this.table(node.table, at, node.layout === 'noBorders')
    else if (node.svg !== undefined) {
      node.svg = svgInSign(node.svg, this.sign)
      if (node.alt !== undefined) node.alt = inSign(node.alt, this.sign)
      node.told =
        at === DECORATION || node.alt === undefined ? DECORATION : new Tag('Figure', at, { alt: node.alt })
    } else if (node.text !== undefined) {
      node.text = this.said(node.text)
      node.id = this.name()
      node.told = at === DECORATION ? at : this.textAt(node, at)
    }
    return node
  }
  /** A text, or its pieces in different hands. */
  private said(text: unknown): unknown {
    if (typeof text === 'string') return inSign(text, this.sign)
    if (Array.isArray(text)) return text.map((piece) => this.said(piece))
    if (text === null || typeof text !== 'object' || !('text' in text)) return text
    return { ...text, text: this.said(text.text) }
  }
  private textAt(node: Node, at: Tag): Tag {
    // In a cell or a line of a list the text is theirs; elsewhere it is a heading or a paragraph.
    if (at.role === 'TH' || at.role === 'TD' || at.role === 'LI') return at
    const heading = node.bold === true && (node.fontSize ?? 0) >= HEADING
    return new Tag((node.fontSize ?? 0) >= LARGE ? 'H1' : heading ? 'H2' : 'P', at)
  }
  private table(table: NonNullable<Node['table']>, at: Told, named: boolean): NonNullable<Node['table']> {
    if (at === DECORATION)
      return { ...table, body: table.body.map((row) => row.map((c) => this.mark(c, at))) }
    const tag = new Tag('Table', at)
    const heads = table.headerRows ?? 0
    return {
      ...table,
      body: table.body.map((row, i) => {
        const tr = new Tag('TR', tag)
        return row.map((c, k) => {
          const head = i < heads ? 'Column' : named && k === 0 ? 'Row' : null
          return this.mark(c, head ? new Tag('TH', tr, { scope: head }) : new Tag('TD', tr))
        })
      }),
    }
  }
}

/**
 * The paper with its structure and its decimals as the plant writes them; what is drawn beside it, at the head and the foot of each page, is decoration.
 */
export function tagged(sign: DecimalSign, paper: TDocumentDefinitions): TDocumentDefinitions {
  tagWhatIsDrawn()
  const marking = new Marking(sign)
  const root = new Tag('Document', null)
  const beside = (given: TDocumentDefinitions['header']): TDocumentDefinitions['header'] =>
    typeof given === 'function'
      ? (...where) => marking.mark(given(...where), DECORATION) as Content
      : given && (marking.mark(given, DECORATION) as Content)
  return {
    ...paper,
    version: '1.7',
    language: 'en',
    tagged: true,
    displayTitle: true,
    header: beside(paper.header),
    footer: beside(paper.footer),
    content: marking.mark(paper.content, root) as ContentStack[],
  }
}

/** What the library's writer of files offers for a structure. */
interface Element {
  add: (child: Element | object) => void
  end: () => void
}
interface Writer {
  readonly options: { readonly tagged?: boolean }
  struct: (role: string, more: object) => Element
  addStructure: (root: Element) => void
  markStructureContent: (role: string) => object
  markContent: (role: string, more: object) => void
  endMarkedContent: () => void
}
interface Drawn {
  readonly type: string
  readonly item: { _node?: Node; told?: Told; id?: string | undefined }
}
interface Renderer {
  readonly pdfDocument: Writer
  renderPages: (pages: readonly { readonly items: readonly Drawn[] }[]) => void
  renderLine: (line: Drawn['item'], x: number, y: number) => void
  renderSVG: (svg: Drawn['item']) => void
  renderImage: (image: Drawn['item']) => void
  renderVector: (vector: object) => void
  elements?: Map<Tag, Element>
}

/** To which element each line belongs: the library names the node of its first line alone. */
function tellLines(pages: readonly { readonly items: readonly Drawn[] }[]): void {
  let current: Told = DECORATION
  for (const { items } of pages) {
    let now: Told = current
    for (const { type, item } of items) {
      if (type !== 'line') continue
      now = item._node?.told ?? now
      if (now !== DECORATION) current = now
      item.told = now
      // It served its purpose; in the file it would be a name that leads nowhere.
      item.id = undefined
    }
  }
}
const firstTag = (pages: readonly { readonly items: readonly Drawn[] }[]): Tag | null => {
  for (const { items } of pages)
    for (const { item } of items) if (item.told instanceof Tag) return item.told.root
  return null
}

let tags = false
/** Once: the library's own drawing, each piece of it inside the element that it belongs to. */
function tagWhatIsDrawn(): void {
  if (tags) return
  tags = true
  const { default: Drawing } = createRequire(import.meta.url)('pdfmake/js/Renderer.js') as {
    default: { prototype: Renderer }
  }
  const { renderPages, renderLine, renderSVG, renderImage, renderVector } = Drawing.prototype
  function within(r: Renderer, told: Told, draw: () => void): void {
    const doc = r.pdfDocument
    const element = told === DECORATION ? undefined : r.elements?.get(told)
    const content = element && told !== DECORATION ? doc.markStructureContent(told.role) : null
    if (!content) doc.markContent('Artifact', { type: 'Layout' })
    draw()
    doc.endMarkedContent()
    if (content) element?.add(content)
  }
  Drawing.prototype.renderPages = function (this: Renderer, pages) {
    const doc = this.pdfDocument
    if (doc.options.tagged !== true) {
      renderPages.call(this, pages)
      return
    }
    tellLines(pages)
    const elements = new Map<Tag, Element>()
    const build = (tag: Tag): Element => {
      const e = doc.struct(tag.role, tag.more)
      elements.set(tag, e)
      for (const child of tag.children) e.add(build(child))
      return e
    }
    const root = firstTag(pages)
    const whole = root && build(root)
    if (whole) doc.addStructure(whole)
    this.elements = elements
    renderPages.call(this, pages)
    whole?.end()
  }
  Drawing.prototype.renderLine = function (this: Renderer, line, x, y) {
    if (!this.elements) renderLine.call(this, line, x, y)
    else within(this, line.told ?? DECORATION, () => renderLine.call(this, line, x, y))
  }
  Drawing.prototype.renderSVG = function (this: Renderer, svg) {
    if (!this.elements) renderSVG.call(this, svg)
    else within(this, svg.told ?? DECORATION, () => renderSVG.call(this, svg))
  }
  // Pictures stand at the head of a page only: whose paper it is says the text.
  Drawing.prototype.renderImage = function (this: Renderer, image) {
    if (!this.elements) renderImage.call(this, image)
    else within(this, DECORATION, () => renderImage.call(this, image))
  }
  Drawing.prototype.renderVector = function (this: Renderer, vector) {
    if (!this.elements) renderVector.call(this, vector)
    else within(this, DECORATION, () => renderVector.call(this, vector))
  }
}
