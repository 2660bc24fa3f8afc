import { join } from 'node:path'
import { expect, test } from 'vitest'
import { z } from 'zod'
import { CertificateFile } from './certificate-file.ts'
import { DeviceBackup } from './devices.ts'
import { LoopPackage, PackageManifest } from './loop-package.ts'

const FORMATS = join(import.meta.dirname, '../../docs/formats')
// What is published is what is checked with; `vitest run --project contract -u` writes it anew.
test.each([
  ['certificate', CertificateFile],
  ['configuration', DeviceBackup],
  ['loop-package', LoopPackage],
  ['loop-package-manifest', PackageManifest],
] as const)('the published schema of %s is the one in use', async (name, schema) => {
  const text = `${JSON.stringify(z.toJSONSchema(schema, { unrepresentable: 'any' }), null, 2)}\n`
  await expect(text).toMatchFileSnapshot(join(FORMATS, `${name}.schema.json`))
})
