import { another, expect, test } from './setup/technician.ts'

test('two people change one loop: what does not clash is joined, what does is asked', async ({
  wren,
  browser,
}) => {
  const heron = await another(browser, 'heron')
  const url = wren.url().replace(/\/loops.*/, '/loops/LT-404/scale')
  await wren.goto(url)
  await heron.goto(url)
  await wren.getByLabel('Remark').fill('mine')
  await wren.getByLabel('Shunt', { exact: true }).fill('249')
  await heron.getByLabel('Remark').fill('theirs')
  await heron.getByRole('button', { name: 'Save revision' }).click()
  await expect(heron.getByText(/revision 3, Heron/)).toBeVisible()

  await wren.getByRole('button', { name: 'Save revision' }).click()
  await expect(wren.getByRole('heading', { name: /Heron \(reviewer\) saved revision 3/ })).toBeVisible()
  await expect(wren.getByText('Shunt, Ω: 249 (yours)')).toBeVisible()
  await wren.getByLabel('yours: mine').check()
  await wren.getByRole('button', { name: 'Save the joined version' }).click()
  await expect(wren.getByText(/revision 4, Wren/)).toBeVisible()
  // The other window follows by itself.
  await expect(heron.getByText(/revision 4, Wren/)).toBeVisible()
  await expect(heron.getByLabel('Remark')).toHaveValue('mine')
  await expect(heron.getByLabel('Shunt', { exact: true })).toHaveValue('249')
})
