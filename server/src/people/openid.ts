import type { Request, Response } from 'express';
import { parse, serialize } from 'cookie';
import * as client from 'openid-client';
import { Problem } from '../write/problem.ts';

/** The shop's own sign-in, as the environment tells it. */
export interface OpenidOptions {
  readonly issuer: string;
  readonly clientId: string;
  readonly clientSecret: string;
  /** What its button says. */
  readonly name: string;
  /** Kalvet's own address as browsers see it, where it cannot be taken from the request. */
  readonly address?: string | undefined;
  /** For a provider on this machine that speaks plain http. */
  readonly insecure?: boolean;
}

export interface Openid {
  readonly name: string;
  /** Where the browser is sent; what must come back is kept in its cookie. */
  begin(request: Request, response: Response): Promise<string>;
  /** @returns the names that the provider vouches for. @throws Problem where it does not */
  end(request: Request, response: Response): Promise<string[]>;
}

const COOKIE = 'kalvet_openid';
const BACK = '/api/session/openid/back';
const TEN_MINUTES_S = 600;

/** What KALVET_OIDC_ISSUER, _CLIENT_ID, _CLIENT_SECRET, _NAME and _ADDRESS say; undefined where there is none. */
export function openidFrom(env: NodeJS.ProcessEnv): OpenidOptions | undefined {
  const issuer = env['KALVET_OIDC_ISSUER'];
  if (!issuer) return undefined;
  const clientId = env['KALVET_OIDC_CLIENT_ID'];
  if (!clientId) throw new Error('KALVET_OIDC_ISSUER needs KALVET_OIDC_CLIENT_ID beside it');
  const insecure = new URL(issuer).protocol === 'http:';
  if (insecure && !['127.0.0.1', 'localhost'].includes(new URL(issuer).hostname))
    throw new Error('KALVET_OIDC_ISSUER must be https, but for a provider on this very machine');
  return {
    issuer,
    clientId,
    clientSecret: env['KALVET_OIDC_CLIENT_SECRET'] ?? '',
    name: env['KALVET_OIDC_NAME'] ?? new URL(issuer).hostname,
    address: env['KALVET_OIDC_ADDRESS'],
    insecure,
  };
}

/** Signs in by OpenID Connect: authorization code with PKCE, state and nonce. The provider is asked when first needed. */
export function openidWith(options: OpenidOptions): Openid {
  let configured: Promise<client.Configuration> | undefined;
  const configuration = () => {
    configured ??= client
      .discovery(new URL(options.issuer), options.clientId, options.clientSecret || undefined, undefined, {
        ...(options.insecure ? { execute: [client.allowInsecureRequests] } : {}),
        timeout: 8,
      })
      .catch((error: Error) => {
        configured = undefined;
        throw new Problem(
          'unavailable',
          `${options.name} cannot be reached: ${error.message}. Sign in by password meanwhile.`,
        );
      });
    return configured;
  };
  const own = (request: Request) => options.address ?? `${request.protocol}://${request.header('Host')}`;
  return {
    name: options.name,
    begin: async (request, response) => {
      const config = await configuration();
      const kept = {
        state: client.randomState(),
        nonce: client.randomNonce(),
        verifier: client.randomPKCECodeVerifier(),
      };
      // Lax, not strict: the browser comes back from the provider's own pages.
      response.append(
        'Set-Cookie',
        serialize(COOKIE, Buffer.from(JSON.stringify(kept)).toString('base64url'), {
          httpOnly: true,
          sameSite: 'lax',
          secure: request.secure,
          path: BACK,
          maxAge: TEN_MINUTES_S,
        }),
      );
      return client.buildAuthorizationUrl(config, {
        redirect_uri: `${own(request)}${BACK}`,
        scope: 'openid profile email',
        state: kept.state,
        nonce: kept.nonce,
        code_challenge: await client.calculatePKCECodeChallenge(kept.verifier),
        code_challenge_method: 'S256',
      }).href;
    },
    end: async (request, response) => {
      const cookie = parse(request.header('Cookie') ?? '')[COOKIE];
      response.append('Set-Cookie', serialize(COOKIE, '', { path: BACK, maxAge: 0 }));
      if (!cookie) throw new Problem('sign in', 'This signing in was begun elsewhere or too long ago. Begin again.');
      const config = await configuration();
      try {
        const kept = JSON.parse(Buffer.from(cookie, 'base64url').toString()) as Record<string, string>;
        const tokens = await client.authorizationCodeGrant(config, new URL(`${own(request)}${request.originalUrl}`), {
          pkceCodeVerifier: kept['verifier']!,
          expectedState: kept['state']!,
          expectedNonce: kept['nonce']!,
          idTokenExpected: true,
        });
        const claims = tokens.claims()!;
        // An address that nobody has verified could be anybody's.
        return [claims.sub, ...(claims['email_verified'] === true ? [String(claims['email'] ?? '')] : [])].filter(
          Boolean,
        );
      } catch (error) {
        throw new Problem('sign in', `${options.name} did not vouch for you: ${(error as Error).message}`);
      }
    },
  };
}
