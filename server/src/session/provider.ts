import type { Role } from '@calm/contract/people'
import * as oidc from 'openid-client'
import { LOCAL, type ProviderSettings } from './provider-settings.ts'

/** Kept in the browser between going there and coming back: nobody else's answer is taken. */
export interface OnItsWay {
  readonly state: string
  readonly nonce: string
  readonly verifier: string
}
/** Who somebody is there. */
export interface Identity {
  /** Address of the sign-in and the identifier that never changes. */
  readonly subject: string
  readonly name: string
  readonly shownName: string
  /** The highest role that is told; null: none of ours. */
  readonly role: Role | null
}
export interface Provider {
  readonly name: string
  /** Where a browser is sent, and what it keeps meanwhile. @throws Error where the sign-in is away */
  readonly go: () => Promise<{ readonly to: URL; readonly keeps: OnItsWay }>
  /** Who came back. @throws Error where the answer is not what was asked for, or not of the sign-in */
  readonly back: (query: string, kept: OnItsWay) => Promise<Identity>
}

const ANSWER_S = 10
// eslint-disable-next-line @typescript-eslint/no-deprecated -- marked so only to stand out: on loopback nobody listens
const plainly = oidc.allowInsecureRequests
/** Of several groups the first of these counts. */
const RANK: readonly Role[] = ['administrator', 'reviewer', 'technician', 'planner', 'viewer']

const textOf = (value: unknown): string => (typeof value === 'string' ? value.trim() : '')
/** A sign-in name as ours are; null where nothing of theirs makes one. */
function nameOf(claims: Readonly<Record<string, unknown>>): string | null {
  const told = textOf(claims['preferred_username']) || textOf(claims['email'])
  const name = (told.split('@')[0] ?? '').toLowerCase().replace(/[^a-z0-9.-]/g, '-')
  return /^[a-z][a-z0-9.-]{1,39}$/.test(name) ? name : null
}

/**
 * Sign-in by OpenID Connect, by code with proof of possession.
 * @see OpenID Connect Core 1.0, 3.1; RFC 7636
 */
export function providerOf(s: ProviderSettings): Provider {
  let known: Promise<oidc.Configuration> | null = null
  const configuration = async (): Promise<oidc.Configuration> => {
    known ??= oidc.discovery(s.issuer, s.clientId, s.clientSecret, undefined, {
      timeout: ANSWER_S,
      // An identity is taken by its signature; without a certificate only on this machine.
      execute: [oidc.enableNonRepudiationChecks, ...(LOCAL.has(s.issuer.hostname) ? [plainly] : [])],
    })
    try {
      return await known
    } catch (error) {
      // It may be there the next time.
      known = null
      throw error
    }
  }
  return {
    name: s.name,
    async go() {
      const config = await configuration()
      const keeps = {
        state: oidc.randomState(),
        nonce: oidc.randomNonce(),
        verifier: oidc.randomPKCECodeVerifier(),
      }
      const to = oidc.buildAuthorizationUrl(config, {
        redirect_uri: s.back.href,
        scope: 'openid profile email',
        state: keeps.state,
        nonce: keeps.nonce,
        code_challenge: await oidc.calculatePKCECodeChallenge(keeps.verifier),
        code_challenge_method: 'S256',
      })
      return { to, keeps }
    },
    async back(query, kept) {
      const config = await configuration()
      const here = new URL(s.back)
      here.search = query
      const tokens = await oidc.authorizationCodeGrant(config, here, {
        expectedState: kept.state,
        expectedNonce: kept.nonce,
        pkceCodeVerifier: kept.verifier,
        idTokenExpected: true,
      })
      const claims = tokens.claims()
      if (!claims) throw new Error('no identity in the answer')
      const told: unknown = claims[s.claim]
      const groups = (Array.isArray(told) ? told : [told]).map(textOf)
      const role = RANK.find((r) => groups.some((g) => s.roles.get(g) === r)) ?? null
      const name = nameOf(claims)
      if (name === null) throw new Error('no name that could be one here')
      return {
        subject: `${claims.iss} ${claims.sub}`,
        name,
        shownName: (textOf(claims['name']) || name).slice(0, 120),
        role,
      }
    },
  }
}
