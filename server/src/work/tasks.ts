import { answer, type Answer } from '@calm/core/calculation'
import { calculationNamed } from '@calm/core/catalogue'
import { provePackage, type ProvedPackage } from '../package/prove.ts'

/** What is done off the main thread: nothing here touches the database, and everything may be ended at any moment. */
export type Task =
  | { readonly kind: 'calculate'; readonly name: string; readonly input: unknown }
  | { readonly kind: 'prove-package'; readonly bytes: Uint8Array; readonly now: string }

export interface Results {
  readonly calculate: Answer
  readonly 'prove-package': ProvedPackage
}

export function done(task: Task): Results[Task['kind']] {
  switch (task.kind) {
    case 'calculate': {
      const calculation = calculationNamed(task.name)
      if (!calculation) throw new RangeError(`no calculation ${task.name}`)
      return answer(calculation, task.input)
    }
    case 'prove-package':
      return provePackage(task.bytes, task.now)
  }
}
