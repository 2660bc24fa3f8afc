import { address, expect, test } from './setup/technician.ts'

test('a row with an unknown unit is mended in place and becomes a loop', async ({ wren }) => {
  await wren.goto(address('/loops/import'))
  const row = wren.locator('.v-card').filter({ hasText: 'WT-408' }).first()
  await expect(row.getByText('“stones” is not a unit')).toBeVisible()
  await row.getByRole('button', { name: 'Mend' }).click()
  await row.getByLabel('Unit', { exact: true }).fill('pebbles')
  await row.getByRole('button', { name: 'Try this row again' }).click()
  await expect(row.getByText('“pebbles” is not a unit').first()).toBeVisible()
  await row.getByLabel('Unit', { exact: true }).fill('kg')
  await row.getByRole('button', { name: 'Try this row again' }).click()
  await expect(wren.getByText('WT-408 is in the plant now.')).toBeVisible()
  await wren.goto(address('/loops/WT-408'))
  await expect(wren.getByText('Bag weight')).toBeVisible()
  await expect(wren.getByText('Transmitter and receivers agree')).toBeVisible()
})

test('an unknown column is mapped on screen before anything is stored', async ({ wren }) => {
  await wren.goto(address('/loops/import'))
  const buffer = Buffer.from('Stelle;Service;LRV;URV;Unit\nPT-510;Spare pump;0;16;bar g\n')
  await wren
    .getByLabel('Loop list (CSV or xlsx)')
    .setInputFiles({ name: 'list.csv', mimeType: 'text/csv', buffer })
  await expect(wren.getByText('This row has no tag.').first()).toBeVisible()
  await wren.locator('.v-select').filter({ hasText: '“Stelle” is' }).click()
  await wren.getByRole('option', { name: 'Tag', exact: true }).click()
  await expect(wren.getByText('1 new')).toBeVisible()
  await wren.getByRole('button', { name: 'Import 1 row' }).click()
  await expect(wren.getByText('1 loop added')).toBeVisible()
})
