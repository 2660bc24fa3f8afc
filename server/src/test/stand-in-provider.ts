import { createHash, randomBytes } from 'node:crypto'
import type { AddressInfo } from 'node:net'
import express from 'express'
import { exportJWK, generateKeyPair, SignJWT } from 'jose'

/** What the next identity says; what is left out is as it should be. */
export interface Identity {
  readonly sub: string
  readonly preferred_username?: string
  readonly name?: string
  readonly groups?: readonly string[]
}
/** How the stand-in misbehaves. */
export interface Fault {
  readonly nonce?: string
  readonly audience?: string
  readonly issuer?: string
  readonly expired?: boolean
  /** Signed by a key that nobody knows. */
  readonly otherKey?: boolean
  /** Says no, as where somebody presses “Cancel”. */
  readonly denies?: boolean
}
export interface StandInProvider {
  readonly issuer: string
  /** Who is at its sign-in page. */
  who: Identity
  fault: Fault
  readonly stop: () => Promise<void>
}
export const CLIENT = { id: 'calm-loop', secret: 'a secret of the plant' }

/** A small provider of OpenID Connect on this machine: somebody is signed in there at once. */
export async function startStandInProvider(): Promise<StandInProvider> {
  const app = express()
  const keys = await generateKeyPair('RS256')
  const others = await generateKeyPair('RS256')
  const jwk = { ...(await exportJWK(keys.publicKey)), kid: 'one', alg: 'RS256', use: 'sig' }
  const codes = new Map<string, { challenge: string; nonce: string; who: Identity }>()
  const server = app.listen(0, '127.0.0.1')
  await new Promise((ready) => server.once('listening', ready))
  const issuer = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  const self: StandInProvider = {
    ...{ issuer, who: { sub: '1' }, fault: {} },
    stop: () =>
      new Promise((done) => {
        server.closeAllConnections()
        server.close(() => {
          done()
        })
      }),
  }
  app.get('/.well-known/openid-configuration', (_req, res) => {
    res.json({
      issuer,
      authorization_endpoint: `${issuer}/authorize`,
      token_endpoint: `${issuer}/token`,
      jwks_uri: `${issuer}/keys`,
      response_types_supported: ['code'],
      subject_types_supported: ['public'],
      id_token_signing_alg_values_supported: ['RS256'],
      code_challenge_methods_supported: ['S256'],
    })
  })
  app.get('/keys', (_req, res) => {
    res.json({ keys: [jwk] })
  })
  app.get('/authorize', (req, res) => {
    const asked = new URL(req.originalUrl, issuer).searchParams
    const back = new URL(asked.get('redirect_uri') ?? '')
    back.searchParams.set('state', asked.get('state') ?? '')
    if (self.fault.denies) back.searchParams.set('error', 'access_denied')
    else {
      const code = randomBytes(16).toString('hex')
      const challenge = asked.get('code_challenge') ?? ''
      codes.set(code, { challenge, nonce: asked.get('nonce') ?? '', who: self.who })
      back.searchParams.set('code', code)
    }
    res.redirect(303, back.href)
  })
  app.post('/token', express.urlencoded(), async (req, res) => {
    const body = req.body as Record<string, string>
    const code = codes.get(body['code'] ?? '')
    // A code is good once.
    codes.delete(body['code'] ?? '')
    const proof = createHash('sha256')
      .update(body['code_verifier'] ?? '')
      .digest('base64url')
    const isClient = body['client_id'] === CLIENT.id && body['client_secret'] === CLIENT.secret
    if (!code || !isClient || proof !== code.challenge) {
      res.status(400).json({ error: 'invalid_grant' })
      return
    }
    const { fault } = self
    const now = Math.floor(Date.now() / 1000) - (fault.expired ? 7200 : 0)
    const { sub, ...claims } = code.who
    const token = await new SignJWT({ ...claims, nonce: fault.nonce ?? code.nonce })
      .setProtectedHeader({ alg: 'RS256', kid: 'one' })
      .setIssuer(fault.issuer ?? issuer)
      .setAudience(fault.audience ?? CLIENT.id)
      .setSubject(sub)
      .setIssuedAt(now)
      .setExpirationTime(now + 600)
      .sign(fault.otherKey ? others.privateKey : keys.privateKey)
    res.json({ access_token: randomBytes(16).toString('hex'), token_type: 'Bearer', id_token: token })
  })
  return self
}
