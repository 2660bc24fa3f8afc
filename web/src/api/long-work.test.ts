import { effectScope } from 'vue'
import { describe, expect, test } from 'vitest'
import { ApiProblem, GivenUp } from './call.ts'
import { tell } from './live.ts'
import { againOnce, useLongWork, type LongWork } from './long-work.ts'
import { WINDOW } from './window.ts'

function within(): { work: LongWork; leave: () => void } {
  const scope = effectScope()
  const work = scope.run(useLongWork)
  if (!work) throw new Error('no scope')
  return { work, leave: () => scope.stop() }
}
/** Work that ends when told, or is given up. */
function held() {
  let end: () => void = () => undefined
  let asked = 0
  const work = (given: AbortSignal) =>
    new Promise<void>((done, fail) => {
      asked += 1
      end = done
      given.addEventListener('abort', () => fail(new GivenUp()))
    })
  return { work, end: () => end(), asked: () => asked }
}

describe('work that takes the server a while', () => {
  test('tells how far it is, to the window that asked for it alone', async () => {
    const { work } = within()
    const { work: hold, end } = held()
    const done = work.begin(hold)
    expect([work.busy.value, work.progress.value]).toEqual([true, null])
    tell({ what: 'working', window: 'another', progress: { done: 9, of: 9 } })
    expect(work.progress.value).toBe(null)
    tell({ what: 'working', window: WINDOW, progress: { done: 3, of: 12 } })
    expect(work.progress.value).toEqual({ done: 3, of: 12 })
    end()
    await done
    expect([work.busy.value, work.says.value]).toEqual([false, null])
    tell({ what: 'working', window: WINDOW, progress: { done: 4, of: 12 } })
    expect(work.progress.value).toEqual({ done: 3, of: 12 })
  })
  test('a second press while it runs does nothing', async () => {
    const { work } = within()
    const { work: hold, end, asked } = held()
    const done = work.begin(hold)
    await work.begin(hold)
    expect(asked()).toBe(1)
    end()
    await done
  })
  test('given up it says nothing; so does leaving the page', async () => {
    for (const way of ['giveUp', 'leave'] as const) {
      const { work, leave } = within()
      const done = work.begin(held().work)
      if (way === 'leave') leave()
      else work.giveUp()
      await done
      expect([work.busy.value, work.says.value]).toEqual([false, null])
    }
  })
  test('what fails is told, until it is begun anew', async () => {
    const { work } = within()
    await work.begin(() => Promise.reject(new ApiProblem(409, { title: 'Too large.' })))
    expect(work.says.value).toBe('Too large.')
    await work.begin(() => Promise.resolve())
    expect(work.says.value).toBe(null)
  })
})

describe('what was cut off is asked for once more', () => {
  const problem = (status: number) => new ApiProblem(status, { title: String(status) })
  test.each<[string, (Error | null)[], string]>([
    ['at once', [null], '1 done'],
    ['the line was cut once', [problem(0), null], '2 done'],
    ['cut twice', [problem(0), problem(0)], '2 0'],
    ['refused', [problem(409)], '1 409'],
    ['given up', [new GivenUp()], '1 '],
  ])('%s', async (_, answers, told) => {
    let asked = 0
    const ask = () => {
      const answer = answers[asked++]
      return answer ? Promise.reject(answer) : Promise.resolve('done')
    }
    const ended = await againOnce(ask).catch((e: unknown) => (e instanceof ApiProblem ? e.problem.title : ''))
    expect(`${asked} ${ended}`).toBe(told)
  })
})
