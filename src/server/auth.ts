import { betterAuth } from "better-auth";
import { twoFactor } from "better-auth/plugins";
import { createPool } from "mysql2/promise";
import { SHORTEST_PASSWORD } from "@/contract/people";
import { connectionOf } from "./connection-of";
import { hideValues, type Asked } from "./hidden-values";
import { baseAddress } from "./origin";

/** Days that somebody stays signed in on a browser that is used: it is put off once a day. */
const SESSION_DAYS = 14;
const DAY_S = 86_400;

const held = globalThis as { chillbankAuth?: { url: string; auth: ReturnType<typeof makeAuth> } };

/** Key that session cookies are signed with, from `CHILLBANK_SECRET`. Throws where there is none: a known one would let anybody in. */
function secret(): string {
  const text = process.env.CHILLBANK_SECRET;
  if (!text || text.length < 32) throw new Error("CHILLBANK_SECRET: at least 32 random characters expected");
  return text;
}

function makeAuth(databaseUrl: string) {
  const database = createPool({ ...connectionOf(databaseUrl), connectionLimit: 6, maxIdle: 1, idleTimeout: 30_000 });
  database.on("connection", (connection) => hideValues(connection as unknown as Asked));
  const base = baseAddress();
  const auth = betterAuth({
    appName: "Chillbank",
    secret: secret(),
    database,
    ...(base ? { baseURL: base.origin } : {}),
    // Where a request comes from is checked before it comes here (src/proxy.ts, src/server/origin.ts).
    trustedOrigins: (request) => (request ? [new URL(request.url).origin] : []),
    telemetry: { enabled: false },
    // What it throws is logged where it is answered (src/server/handler.ts).
    logger: { disabled: true },
    // Tries are counted by account and by address, for every way to sign in (src/server/attempts.ts).
    rateLimit: { enabled: false },
    emailAndPassword: {
      enabled: true,
      // People come by invitation (src/server/people.ts).
      disableSignUp: true,
      minPasswordLength: SHORTEST_PASSWORD,
    },
    session: {
      modelName: "sessions",
      fields: {
        userId: "person_id",
        expiresAt: "expires_at",
        ipAddress: "address",
        userAgent: "browser",
        createdAt: "created_at",
        updatedAt: "updated_at",
      },
      expiresIn: SESSION_DAYS * DAY_S,
      updateAge: DAY_S,
    },
    user: {
      modelName: "people",
      fields: { emailVerified: "email_verified", createdAt: "created_at", updatedAt: "updated_at" },
      additionalFields: {
        workshopId: { type: "string", fieldName: "workshop_id", input: false, required: true },
        role: { type: "string", input: false, required: true },
      },
    },
    account: {
      modelName: "credentials",
      fields: {
        userId: "person_id",
        accountId: "account_id",
        providerId: "provider_id",
        accessToken: "access_token",
        refreshToken: "refresh_token",
        idToken: "id_token",
        accessTokenExpiresAt: "access_token_expires_at",
        refreshTokenExpiresAt: "refresh_token_expires_at",
        createdAt: "created_at",
        updatedAt: "updated_at",
      },
    },
    verification: {
      modelName: "verifications",
      fields: { expiresAt: "expires_at", createdAt: "created_at", updatedAt: "updated_at" },
    },
    plugins: [
      twoFactor({
        issuer: "Chillbank",
        schema: {
          user: { fields: { twoFactorEnabled: "second_factor" } },
          twoFactor: {
            modelName: "second_factors",
            fields: {
              userId: "person_id",
              backupCodes: "recovery_codes",
              failedVerificationCount: "failed",
              lockedUntil: "locked_until",
            },
          },
        },
      }),
    ],
    advanced: {
      cookiePrefix: "chillbank",
      useSecureCookies: base?.protocol === "https:",
      defaultCookieAttributes: { sameSite: "lax", httpOnly: true },
    },
  });
  return { auth, close: () => database.end() };
}

/** The sign-in of this process, on the database of `DATABASE_URL`. */
export function auth() {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error("DATABASE_URL is not set: start Chillbank with bin/demo");
  // Another database is another sign-in: tests have one each.
  if (held.chillbankAuth?.url !== url) held.chillbankAuth = { url, auth: makeAuth(url) };
  return held.chillbankAuth.auth.auth;
}

/** Lets go of the connections of the sign-in. */
export async function closeAuth(): Promise<void> {
  await held.chillbankAuth?.auth.close();
  delete held.chillbankAuth;
}
