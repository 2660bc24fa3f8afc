import { afterAll, beforeAll, expect, test } from 'vitest'
import { testApp, type TestApp } from '../test/app.ts'

let app: TestApp
beforeAll(async () => {
  app = await testApp({ settings: { onlyHttps: true, proxy: 'loopback' } })
})
afterAll(() => app.stop())
const signIn = (proto: string) =>
  app
    .anyone()
    .post('/api/session')
    .set('X-Forwarded-Proto', proto)
    .send({ name: 'wren', password: 'salt-and-water' })
const cookies = (res: { headers: Record<string, unknown> }) => (res.headers['set-cookie'] ?? []) as string[]

test('where everything goes by https the cookie is bound to this host, and a script never sees it', async () => {
  const [cookie = ''] = cookies(await signIn('https').expect(200))
  const parts = cookie.split('; ')
  expect(parts[0]).toMatch(/^__Host-calm\.sid=/)
  expect(parts.slice(1)).toEqual(expect.arrayContaining(['Path=/', 'HttpOnly', 'Secure', 'SameSite=Strict']))
  expect(cookie).not.toMatch(/Domain=/i)
})
test('by a connection that is not, none is given', async () => {
  expect(cookies(await signIn('http'))).toEqual([])
})
