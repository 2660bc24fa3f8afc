import { namedPlan } from '@calm/core/verify/plan'
import { mount } from '@vue/test-utils'
import { createVuetify } from 'vuetify'
import { beforeEach, describe, expect, test } from 'vitest'
import ReadingsTable from './ReadingsTable.vue'

const columns = [
  { id: 'applied' as const, title: 'Applied', unit: 'bar(g)' },
  { id: 'loopCurrent_mA' as const, title: 'Loop', unit: 'mA' },
]
const vuetify = createVuetify()
function table(more: object = {}, isTaken = true) {
  const recorded: unknown[][] = []
  const wrapper = mount(ReadingsTable, {
    attachTo: document.body,
    global: { plugins: [vuetify] },
    props: {
      plan: namedPlan('P3'),
      rows: {},
      record: (...row: unknown[]) => {
        recorded.push(row)
        return isTaken
      },
      columns,
      applied: (level: number) => level * 0.8,
      judgement: null,
      doubts: {},
      notes: {},
      loop: 'l',
      mayConfirm: true,
      readonly: false,
      draftKey: 'calm-cells/test',
      label: 'As found',
      ...more,
    },
  })
  const cell = (row: number, column: number) => {
    const found = wrapper.findAll('input')[row * columns.length + column]
    if (!found) throw new Error('no cell')
    return found
  }
  const leave = (row: number) => cell(row, 0).trigger('focusout', { relatedTarget: null })
  return { wrapper, cell, leave, recorded: () => recorded }
}
beforeEach(() => {
  localStorage.clear()
  document.body.innerHTML = ''
})

describe('readings at the keyboard', () => {
  test('a row goes into the record when it is left, once', async () => {
    const t = table()
    await t.cell(0, 0).setValue('0')
    await t.cell(0, 1).setValue('4,01')
    expect(t.recorded()).toEqual([])
    await t.leave(0)
    await t.leave(0)
    expect(t.recorded()).toEqual([
      [0, { applied: { value: 0, typed: '0' }, loopCurrent_mA: { value: 4.01, typed: '4,01' } }],
    ])
  })
  test('what the record did not take stays typed, here and in the browser', async () => {
    const t = table({}, false)
    await t.cell(0, 0).setValue('1,5')
    await t.leave(0)
    expect(t.recorded()).toHaveLength(1)
    expect((t.cell(0, 0).element as HTMLInputElement).value).toBe('1,5')
    expect(localStorage.getItem('calm-cells/test')).toContain('1,5')
    localStorage.removeItem('calm-cells/test')
  })
  test('every key is kept in the browser before the row is left', async () => {
    const t = table()
    await t.cell(1, 1).setValue('12.0')
    expect(localStorage.getItem('calm-cells/test')).toBe('{"1/loopCurrent_mA":"12.0"}')
  })
  test('what a closed lid left behind goes into the record when the table is back', () => {
    localStorage.setItem('calm-cells/test', '{"1/applied":"40"}')
    expect(table().recorded()).toEqual([[1, { applied: { value: 40, typed: '40' } }]])
  })
  test('Enter goes to the next reading, shift and Enter back', async () => {
    const t = table()
    t.cell(0, 0).element.focus()
    await t.cell(0, 0).trigger('keydown', { key: 'Enter' })
    expect(document.activeElement).toBe(t.cell(0, 1).element)
    await t.cell(0, 1).trigger('keydown', { key: 'Enter' })
    expect(document.activeElement).toBe(t.cell(1, 0).element)
    await t.cell(1, 0).trigger('keydown', { key: 'Enter', shiftKey: true })
    expect(document.activeElement).toBe(t.cell(0, 1).element)
  })
  test('a wrong cell is told below its row, keeps its text, and the good cells of the row are recorded', async () => {
    const t = table()
    await t.cell(0, 0).setValue('40')
    await t.cell(0, 1).setValue('twelve')
    await t.leave(0)
    expect(t.recorded()).toEqual([[0, { applied: { value: 40, typed: '40' } }]])
    expect(t.wrapper.get('[role=alert]').text()).toBe(
      'Point 1, Loop: “twelve” is not a number. Type digits, with a comma or a point for decimals.',
    )
    expect(t.cell(0, 1).element.value).toBe('twelve')
  })
  test('another unit is shown as the value used, and as typed below', () => {
    const t = table({ rows: { 0: { applied: { value: 1.5, typed: '150 kPa' } } } })
    expect(t.cell(0, 0).element.value).toBe('1.5')
    expect(t.wrapper.text()).toContain('typed 150 kPa')
  })
  test('an emptied cell takes its value out of the row', async () => {
    const t = table({
      rows: { 0: { applied: { value: 1, typed: '1' }, loopCurrent_mA: { value: 4, typed: '4' } } },
    })
    await t.cell(0, 1).setValue('')
    await t.leave(0)
    expect(t.recorded()).toEqual([[0, { applied: { value: 1, typed: '1' } }]])
  })
  test('closed readings cannot be typed over', async () => {
    const t = table({ readonly: true, rows: { 0: { applied: { value: 1, typed: '1' } } } })
    expect(t.cell(0, 0).attributes('readonly')).toBe('')
    await t.leave(0)
    expect(t.recorded()).toEqual([])
  })
  test('a doubt is shown at its row; who read it may say that it was read so', async () => {
    const t = table({
      doubts: {
        1: [
          { code: 'IMPLAUSIBLE', severity: 'warn', where: ['applied'], says: 'Is the decimal point right?' },
        ],
      },
    })
    expect(t.wrapper.get('[role=status]').text()).toMatch(/^Is the decimal point right\?/)
    await t.wrapper.get('[aria-label="Point 2: it was read so"]').trigger('click')
    expect(t.wrapper.emitted('confirm')).toEqual([[1, ['applied']]])
    await t.wrapper.setProps({ mayConfirm: false })
    expect(t.wrapper.find('[aria-label="Point 2: it was read so"]').exists()).toBe(false)
  })
})
