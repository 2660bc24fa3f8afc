import { mount } from '@vue/test-utils'
import { describe, expect, test } from 'vitest'
import { createVuetify } from 'vuetify'
import NumberField from './NumberField.vue'

function field(props: { modelValue: number | null; unit?: string; typed?: string }) {
  const wrapper = mount(NumberField, {
    props: { label: 'LRV', ...props },
    global: { plugins: [createVuetify()] },
  })
  const type = (text: string) => wrapper.find('input').setValue(text)
  const values = () => (wrapper.emitted('update:modelValue') ?? []).map((e) => e[0])
  return { wrapper, type, values, shown: () => wrapper.find('input').element.value }
}

describe('a number field', () => {
  test('takes a comma and keeps what was typed', async () => {
    const f = field({ modelValue: 0, unit: 'bar(g)' })
    await f.type('1,50')
    expect(f.values()).toEqual([1.5])
    expect(f.shown()).toBe('1,50')
    expect(f.wrapper.emitted('typed')).toEqual([['1,50']])
  })
  test('converts another unit and shows the value used', async () => {
    const f = field({ modelValue: 0, unit: 'bar(g)' })
    await f.type('150 kPa')
    expect(f.values()).toEqual([1.5])
    expect(f.wrapper.text()).toContain('= 1.5 bar g')
  })
  test('a wrong text is said, stays to be mended, and changes no value', async () => {
    const f = field({ modelValue: 2, unit: 'bar(g)' })
    await f.type('2..5')
    expect(f.values()).toEqual([])
    expect(f.shown()).toBe('2..5')
    expect(f.wrapper.text()).toContain('“2..5” has more than one decimal sign')
  })
  test('empty is null, never zero', async () => {
    const f = field({ modelValue: 2 })
    await f.type('')
    expect(f.values()).toEqual([null])
  })
  test('shows the text a person typed only while it still is the value', () => {
    expect(field({ modelValue: 0.35, unit: 'm', typed: '0,35' }).shown()).toBe('0,35')
    expect(field({ modelValue: 0.4, unit: 'm', typed: '0,35' }).shown()).toBe('0.4')
  })
  test('a comma that could mean thousands is told', async () => {
    const f = field({ modelValue: 0 })
    await f.type('1,450')
    expect(f.wrapper.text()).toContain('used as 1.45')
  })
})
