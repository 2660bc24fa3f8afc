import AxeBuilder from '@axe-core/playwright'
import { expect, test } from '@playwright/test'
import { CLIENT, startStandInProvider, type StandInProvider } from '../server/src/test/stand-in-provider.ts'
import { ownServer } from './setup/own-server.ts'

let url = ''
let provider: StandInProvider
let stop: () => Promise<void>
test.beforeAll(async () => {
  provider = await startStandInProvider()
  ;({ url, stop } = await ownServer((address) => ({
    CALM_DEMO: 'none',
    CALM_ADDRESS: address,
    CALM_OIDC_ISSUER: provider.issuer,
    CALM_OIDC_CLIENT: CLIENT.id,
    CALM_OIDC_SECRET: CLIENT.secret,
    CALM_OIDC_NAME: 'the harbour’s sign-in',
    CALM_OIDC_ROLES: 'calm-technicians=technician',
  })))
})
test.afterAll(async () => {
  await stop()
  await provider.stop()
})

test('in by the plant’s own sign-in, with a key under a password for signing alone; without a role nobody comes in', async ({
  page,
}) => {
  await page.request.post(`${url}/api/people/first`, {
    data: { name: 'quay', shownName: 'Quay Mason', password: 'a long walk by the sea' },
  })
  await page.request.delete(`${url}/api/session`)
  const groups = ['calm-technicians']
  provider.who = { sub: '7', preferred_username: 'curlew', name: 'Curlew Strand', groups: ['cooks'] }
  await page.goto(url)
  const way = page.getByRole('link', { name: 'By the harbour’s sign-in' })
  await way.click()
  await expect(page.getByRole('alert')).toHaveText(/no group of yours works in Calm Loop/)
  const { violations } = await new AxeBuilder({ page }).analyze()
  expect(violations.map((v) => v.id)).toEqual([])
  provider.who = { ...provider.who, groups }
  await way.click()
  await expect(page.getByRole('heading', { name: 'Loops', exact: true })).toBeVisible()
  await page.goto(`${url}/account`)
  await expect(page.getByRole('heading', { name: 'Curlew Strand' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Password' })).toHaveCount(0)
  const key = page.getByRole('region', { name: 'Signing key' })
  await key.getByLabel('New password').fill('short')
  await key.getByRole('button', { name: 'Make my key' }).click()
  await expect(key.getByText(/At least 12 characters\. A sentence is easy/).first()).toBeVisible()
  await key.getByLabel('New password').fill('gulls over grey water')
  await key.getByLabel('The same again').fill('gulls over grey water')
  await key.getByRole('button', { name: 'Make my key' }).click()
  await expect(key.getByText(/only your signing password opens it/)).toBeVisible()
  const words = page.getByRole('region', { name: 'Signing password' })
  await words.getByLabel('Signing password of now').fill('something else entirely')
  await words.getByLabel('New password').fill('foam under the pier')
  await words.getByLabel('The same again').fill('foam under the pier')
  await words.getByRole('button', { name: 'Change it' }).click()
  await expect(words.getByText('This is not your signing password of now.')).toBeVisible()
  await words.getByLabel('Signing password of now').fill('gulls over grey water')
  await words.getByRole('button', { name: 'Change it' }).click()
  await expect(words.getByText('The signing password is changed.')).toBeVisible()
  // Signed out here; there they are signed in still, and come back as the same person with the same key.
  await page.request.delete(`${url}/api/session`)
  await page.goto(url)
  await way.click()
  await page.goto(`${url}/account`)
  await expect(key.getByText(/only your signing password opens it/)).toBeVisible()
})
