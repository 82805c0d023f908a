import { z } from "zod";
import { idSchema } from "./common";

/** What somebody may do in a workshop. Whoever is signed in may look at its jobs, parts and test runs. */
export const ABILITIES = {
  look: "look at jobs, parts and test runs",
  measure: "run test runs, commissioning and practice",
  design: "make and change jobs, and send them to customers",
  stock: "change the parts shelf",
  manage: "invite people, change their roles and erase records",
} as const;
export type Ability = keyof typeof ABILITIES;

export const ROLES = {
  owner: { label: "Owner", may: ["look", "measure", "design", "stock", "manage"] },
  installer: { label: "Installer", may: ["look", "measure", "design", "stock"] },
  apprentice: { label: "Apprentice", may: ["look", "measure"] },
} as const satisfies Record<string, { label: string; may: readonly Ability[] }>;
export type Role = keyof typeof ROLES;
export const ROLE_KEYS = Object.keys(ROLES) as [Role, ...Role[]];
/** E-mail addresses of the demo's people, by their role. */
export const demoEmail = (role: Role): string => `${role}@demo.invalid`;
export const roleSchema = z.enum(ROLE_KEYS);

export const roleMay = (role: Role, ability: Ability): boolean =>
  (ROLES[role].may as readonly Ability[]).includes(ability);

/** Long enough that it cannot be guessed by trying (ASVS 4, 2.1.1 and 2.1.2), and no longer than a hash is made of in time. */
export const SHORTEST_PASSWORD = 12;
const LONGEST_PASSWORD = 128;

const text = (words: string, most: number) =>
  z
    .string({ error: words })
    .trim()
    .min(1, { error: words })
    .max(most, { error: `at most ${most} characters` });

export const emailSchema = z.email({ error: "an e-mail address expected" }).trim().toLowerCase().max(200);
export const passwordSchema = z
  .string({ error: "a password expected" })
  .min(SHORTEST_PASSWORD, { error: `at least ${SHORTEST_PASSWORD} characters` })
  .max(LONGEST_PASSWORD, { error: `at most ${LONGEST_PASSWORD} characters` });

/** Somebody who signs in for the first time. */
export const newPerson = z.object({ name: text("a name expected", 80), email: emailSchema, password: passwordSchema });
export type NewPerson = z.infer<typeof newPerson>;

/** The workshop's first page: its name, its owner and the code from the console. */
export const beginning = newPerson.extend({
  workshop: text("the workshop's name expected", 80),
  code: text("the code from the console expected", 40),
});

export const signIn = z.object({
  email: emailSchema,
  password: z.string().min(1, { error: "a password expected" }).max(LONGEST_PASSWORD),
});
export const passwordChange = z.object({
  current: z.string().min(1, { error: "a password expected" }).max(LONGEST_PASSWORD),
  next: passwordSchema,
});
/** A one-time code, or a recovery code. */
export const secondStep = z.object({
  code: z.string().trim().min(6, { error: "the code expected" }).max(40, { error: "the code expected" }),
});
export const ownPassword = z.object({
  password: z.string().min(1, { error: "a password expected" }).max(LONGEST_PASSWORD),
});
/** What signing in is answered with: nothing, or that a one-time code is asked for besides. */
export const signedInAnswer = z.union([z.null(), z.object({ secondFactor: z.literal(true) })]);
export const secondFactorBegun = z.object({ address: z.string(), recoveryCodes: z.array(z.string()) });
export type SecondFactorBegun = z.infer<typeof secondFactorBegun>;
export const newInvitation = z.object({ role: roleSchema });
export const roleChange = z.object({ role: roleSchema });

/** Whoever is signed in, as pages and screens know them. */
export const meSchema = z.object({
  name: z.string(),
  email: z.string(),
  role: roleSchema,
  workshop: z.string(),
  base: z.string().nullable(),
  /** Whether one-time codes are asked for at the sign-in. */
  secondFactor: z.boolean(),
});
export type Me = z.infer<typeof meSchema>;

const moment = z.iso.datetime();
export const personSchema = z.object({
  id: z.string(),
  name: z.string(),
  email: z.string(),
  role: roleSchema,
  me: z.boolean(),
});
export type ListedPerson = z.infer<typeof personSchema>;
const invitationSchema = z.object({ id: idSchema, role: roleSchema, invitedBy: z.string(), expiresAt: moment });
export type ListedInvitation = z.infer<typeof invitationSchema>;
const kept = z.object({ now: z.number().min(0), most: z.number().min(0) });
/** What a workshop keeps on its server, and the most of each that it may: numbers of each, and bytes of photos and imported logs. */
const useSchema = z.object({ jobs: kept, parts: kept, people: kept, readings: kept, bytes: kept });
export type Use = z.infer<typeof useSchema>;
export const peopleAnswer = z.object({
  people: z.array(personSchema),
  invitations: z.array(invitationSchema),
  use: useSchema,
});
/** An invitation's address is told once, to whoever makes it. */
export const invitedAnswer = z.object({ path: z.string(), address: z.string().nullable() });
