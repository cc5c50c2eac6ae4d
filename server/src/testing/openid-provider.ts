// A small OpenID provider for specs: discovery, an authorization that asks nobody, tokens signed with a key of its own.
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { createHash, randomUUID } from 'node:crypto';
import { SignJWT, exportJWK, generateKeyPair } from 'jose';

interface Claims {
  readonly sub: string;
  readonly email?: string;
  readonly email_verified?: boolean;
}

export interface Provider {
  readonly issuer: string;
  /** Whom it vouches for, and with which nonce if another than was asked. */
  vouch: Claims & { nonce?: string };
  stop(): Promise<void>;
}

export async function openidProvider(clientId: string, clientSecret: string): Promise<Provider> {
  const { publicKey, privateKey } = await generateKeyPair('RS256');
  const key = { ...(await exportJWK(publicKey)), kid: 'k1', alg: 'RS256', use: 'sig' };
  const codes = new Map<string, { nonce: string; challenge: string; redirect: string }>();
  const server = createServer((request, response) => {
    const url = new URL(request.url!, provider.issuer);
    const json = (body: object, status = 200) =>
      response.writeHead(status, { 'Content-Type': 'application/json' }).end(JSON.stringify(body));
    if (url.pathname === '/.well-known/openid-configuration')
      return void json({
        issuer: provider.issuer,
        authorization_endpoint: `${provider.issuer}/authorize`,
        token_endpoint: `${provider.issuer}/token`,
        jwks_uri: `${provider.issuer}/keys`,
        response_types_supported: ['code'],
        subject_types_supported: ['public'],
        id_token_signing_alg_values_supported: ['RS256'],
        code_challenge_methods_supported: ['S256'],
      });
    if (url.pathname === '/keys') return void json({ keys: [key] });
    if (url.pathname === '/authorize') {
      const code = randomUUID();
      const asked = (name: string) => url.searchParams.get(name) ?? '';
      codes.set(code, { nonce: asked('nonce'), challenge: asked('code_challenge'), redirect: asked('redirect_uri') });
      const back = new URL(asked('redirect_uri'));
      back.searchParams.set('code', code);
      back.searchParams.set('state', asked('state'));
      return void response.writeHead(302, { Location: back.href }).end();
    }
    let body = '';
    request.on('data', (chunk) => (body += chunk));
    request.on('end', () => void token(new URLSearchParams(body), request.headers.authorization ?? '').then(json));
    return undefined;
  });
  const token = async (asked: URLSearchParams, authorization: string): Promise<object> => {
    const found = codes.get(asked.get('code') ?? '');
    codes.delete(asked.get('code') ?? '');
    const challenge = createHash('sha256')
      .update(asked.get('code_verifier') ?? '')
      .digest('base64url');
    const secret =
      asked.get('client_secret') ?? Buffer.from(authorization.replace('Basic ', ''), 'base64').toString().split(':')[1];
    if (!found || challenge !== found.challenge || secret !== clientSecret) return { error: 'invalid_grant' };
    const { nonce = found.nonce, ...claims } = provider.vouch;
    const idToken = await new SignJWT({ ...claims, nonce })
      .setProtectedHeader({ alg: 'RS256', kid: 'k1' })
      .setIssuer(provider.issuer)
      .setAudience(clientId)
      .setIssuedAt()
      .setExpirationTime('5m')
      .sign(privateKey);
    return { access_token: randomUUID(), token_type: 'Bearer', id_token: idToken };
  };
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const provider: Provider = {
    issuer: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    vouch: { sub: 'nobody' },
    stop: () =>
      new Promise((resolve) => {
        server.closeAllConnections();
        server.close(() => resolve());
      }),
  };
  return provider;
}
