import { fieldName } from '@calm/core/loop/field-names'
import { fieldAt } from '@calm/core/loop/field-path'
import { useLoop } from './loop-store.ts'

/** Everything a number field needs to know about the field of the open loop at a path. */
export function useDocumentField(readonly: () => boolean) {
  const loop = useLoop()
  return (path: string, unit: string | null = null) => {
    const value = fieldAt(loop.draft, path)
    return {
      modelValue: typeof value === 'number' ? value : null,
      label: fieldName(path)
        .replace(
          /^(Transmitter|Controller|Display|Output|Input card|Isolator|Converter|Frequency|Totalizer|Sensor),? /,
          '',
        )
        .replace(/^./, (c) => c.toUpperCase()),
      unit,
      typed: loop.draft?.asTyped[path] ?? null,
      error: loop.wrong.get(path) ?? null,
      unconfirmed: loop.draft?.unconfirmed.includes(path) ?? false,
      readonly: readonly(),
      'onUpdate:modelValue': (v: number | null) => loop.setField(path, v ?? undefined),
      onTyped: (text: string) => loop.keepTyped(path, text),
    }
  }
}
