import type { PackageTaken } from '@calm/contract/loop-package'
import type { LoopDetail } from '@calm/contract/loops'
import type { Sensor } from '@calm/contract/sensors'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { provePlant } from '../proof/prove.ts'
import { testApp } from '../test/app.ts'

const LOOPS = 'truncate loops, loop_revisions, runs, events, stand_ins cascade'
let here: Awaited<ReturnType<typeof testApp>>
let elsewhere: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
let bytes: Buffer
let sensor: Sensor
beforeAll(async () => {
  here = await testApp()
  elsewhere = await testApp({ own: true })
  await elsewhere.tamper(LOOPS)
  wren = await elsewhere.as('wren')
  const tern = await here.as('tern')
  const all = (await tern.get('/api/sensors').expect(200)).body as Sensor[]
  const pair = all.find((s) => s.description.kind === 'clamp-on-pair' && s.on.length > 0)
  if (!pair) throw new Error('the demo plant has no pair on a loop')
  sensor = pair
  const answer = await tern
    .get(`/api/loops/${pair.on[0]}/package.zip`)
    .buffer()
    .parse((res, done) => {
      const chunks: Buffer[] = []
      const stream = res as unknown as NodeJS.ReadableStream
      stream.on('data', (c: Buffer) => chunks.push(c))
      stream.on('end', () => done(null, Buffer.concat(chunks)))
    })
    .expect(200)
  bytes = answer.body as Buffer
})
afterAll(async () => {
  await here.stop()
  await elsewhere.stop()
})
const send = () => wren.post('/api/packages').set('Content-Type', 'application/zip').send(bytes)
const stock = async () => (await wren.get('/api/sensors').expect(200)).body as Sensor[]

test('a serial that is on another sensor of the stock is told, and nothing is taken in', async () => {
  await elsewhere.tamper('delete from sensor_revisions')
  const id = '018f3c1e-7b1a-4c3e-9a52-0f6f3f0a0001'
  await wren
    .put(`/api/sensors/${id}`)
    .send({ base: 0, description: sensor.description, reason: '' })
    .expect(200)
  const { body } = await send().expect(422)
  expect((body as { errors: { path: string; says: string }[] }).errors[0]).toMatchObject({
    path: 'loop.json.sensors.0',
    says: expect.stringContaining(sensor.name) as string,
  })
  expect((await wren.get('/api/loops').expect(200)).body).toEqual([])
})

test('the sensor of a loop comes along with its plate, once, under the name of who took it in', async () => {
  await elsewhere.tamper('delete from sensor_revisions')
  const before = (await provePlant(elsewhere.connection.db)).mismatches.length
  const { body } = await send().expect(200)
  await send().expect(200)
  const { id, tag } = body as PackageTaken
  expect(await stock()).toMatchObject([
    {
      id: sensor.id,
      revision: 1,
      description: sensor.description,
      on: [tag],
      reason: `Came with the package of ${tag}`,
    },
  ])
  const loop = (await wren.get(`/api/loops/${id}`).expect(200)).body as LoopDetail
  expect(loop.document.setUp?.sensor).toBe(sensor.id)
  // It stands in the log of the plant: no row that nobody entered.
  expect((await provePlant(elsewhere.connection.db)).mismatches).toHaveLength(before)
})

test('one that is here already stays as it is described here', async () => {
  await elsewhere.tamper(LOOPS)
  const [mine] = await stock()
  const description = { ...sensor.description, remark: 'scratched' }
  await wren
    .put(`/api/sensors/${sensor.id}`)
    .send({ base: mine?.revision, description, reason: 'looked at' })
    .expect(200)
  await send().expect(200)
  expect((await stock()).map((s) => s.description.remark)).toEqual(['scratched'])
})
