import { ROLES, type Role } from '@calm/core/signing/roles'

/** The plant's own sign-in, as the plant sets it. */
export interface ProviderSettings {
  readonly issuer: URL
  readonly clientId: string
  readonly clientSecret: string
  /** As people call it, on the button. */
  readonly name: string
  /** The claim that tells what somebody may do, and what its values are here. */
  readonly claim: string
  readonly roles: ReadonlyMap<string, Role>
  /** Where it sends a browser back to: an address of ours. */
  readonly back: URL
}

/** Where nothing leaves this machine. */
export const LOCAL: ReadonlySet<string> = new Set(['127.0.0.1', 'localhost', '[::1]'])

/**
 * Roles by what the sign-in calls them.
 * @param text - `calm-technicians=technician, calm-reviewers=reviewer`
 * @returns the map, or the part that cannot be read
 */
function readRoles(text: string): ReadonlyMap<string, Role> | string {
  const out = new Map<string, Role>()
  for (const part of text.split(',').map((t) => t.trim())) {
    if (part === '') continue
    const at = part.lastIndexOf('=')
    const role = ROLES.find((r) => r === part.slice(at + 1).trim())
    const group = part.slice(0, Math.max(0, at)).trim()
    if (!role || group === '') return part
    out.set(group, role)
  }
  return out
}

function addressOf(text: string): URL | null {
  try {
    const url = new URL(text)
    const isSafe = url.protocol === 'https:' || (url.protocol === 'http:' && LOCAL.has(url.hostname))
    return isSafe ? url : null
  } catch {
    return null
  }
}

type Environment = Readonly<Record<string, string | undefined>>
/**
 * The plant's own sign-in out of the environment; null where the plant has none.
 * @returns a sentence where it cannot be read
 */
export function readProvider(env: Environment): ProviderSettings | null | string {
  const told = env['CALM_OIDC_ISSUER'] ?? ''
  if (told === '') return null
  const issuer = addressOf(told)
  if (!issuer)
    return `CALM_OIDC_ISSUER is “${told}”. It must be an address by https, as https://sign-in.plant.example.`
  const own = env['CALM_ADDRESS'] ?? ''
  if (own === '')
    return 'CALM_OIDC_ISSUER is set and CALM_ADDRESS is not. The plant’s own sign-in has to know where it sends people back to.'
  const [clientId = '', clientSecret = ''] = [env['CALM_OIDC_CLIENT'], env['CALM_OIDC_SECRET']]
  if (clientId === '' || clientSecret === '')
    return 'CALM_OIDC_CLIENT and CALM_OIDC_SECRET are needed beside CALM_OIDC_ISSUER: the plant’s own sign-in gave both.'
  const roles = readRoles(env['CALM_OIDC_ROLES'] ?? '')
  if (typeof roles === 'string')
    return `CALM_OIDC_ROLES holds “${roles}”. It must look like calm-technicians=technician, with one of ${ROLES.join(', ')}.`
  if (roles.size === 0)
    return 'CALM_OIDC_ROLES is empty: nobody could come in. It must look like calm-technicians=technician.'
  return {
    issuer,
    clientId,
    clientSecret,
    roles,
    name: env['CALM_OIDC_NAME'] ?? 'the plant’s sign-in',
    claim: env['CALM_OIDC_CLAIM'] ?? 'groups',
    back: new URL('/api/session/provider/back', own),
  }
}
