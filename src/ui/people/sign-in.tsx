"use client";

import { Button, Form, Input } from "antd";
import { useState } from "react";
import { SHORTEST_PASSWORD, type NewPerson, type Role } from "@/contract/people";
import { useHydrated } from "../state/use-hydrated";
import { say } from "@/core/messages/say";
import { begin, join, signIn, signInByCode, signInToDemo } from "./people-calls";

const need = (message: string) => [{ required: true, message }];
const EMAIL = [
  { required: true, message: say("interface.people.email") },
  { type: "email" as const, message: say("interface.people.email") },
];
const NEW_PASSWORD = [
  { required: true, message: say("interface.people.password", { least: SHORTEST_PASSWORD }) },
  { min: SHORTEST_PASSWORD, message: say("interface.people.password", { least: SHORTEST_PASSWORD }) },
];

/** Sends what was typed, shows what went wrong beneath the form, and goes on to `to` where it was taken. */
function useSending(to: string) {
  const hydrated = useHydrated();
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  /** `what` may say that there is another step before it goes on. */
  const attempt = async (what: () => Promise<unknown>) => {
    setBusy(true);
    setWrong(null);
    try {
      if ((await what()) === "step") return setBusy(false);
      // A whole load: every page is made for whoever is signed in.
      window.location.assign(to);
    } catch (error) {
      setWrong((error as Error).message);
      setBusy(false);
    }
  };
  const fault = wrong && (
    <p className="heat" role="alert">
      {wrong}
    </p>
  );
  return { busy, attempt, fault, hydrated };
}

function Frame({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <main className="page sign-in">
      <header className="page-head">
        <h1>{title}</h1>
      </header>
      {children}
    </main>
  );
}

const email = (
  <Form.Item name="email" label="E-mail address" rules={EMAIL} validateTrigger="onBlur">
    <Input type="email" autoComplete="username" autoFocus />
  </Form.Item>
);

/** The second step, where somebody asked for it. */
function CodeForm({
  attempt,
  busy,
  fault,
  onBack,
}: Pick<ReturnType<typeof useSending>, "attempt" | "busy" | "fault"> & { onBack(): void }) {
  return (
    <Form
      layout="vertical"
      requiredMark={false}
      onFinish={({ code }: { code: string }) => void attempt(() => signInByCode(code))}
    >
      <p>{say("interface.people.code")}</p>
      <Form.Item name="code" label="Code" rules={need(say("interface.people.code"))}>
        <Input autoComplete="one-time-code" maxLength={40} autoFocus style={{ width: 220 }} />
      </Form.Item>
      {fault}
      <Button htmlType="submit" type="primary" loading={busy}>
        Sign in
      </Button>{" "}
      <Button onClick={onBack}>Start again</Button>
    </Form>
  );
}

/** Who comes in, by e-mail address and password; the demo opens without either. */
export function SignIn({ to, demo }: { to: string; demo: boolean }) {
  const { busy, attempt, fault, hydrated } = useSending(to);
  const [second, setSecond] = useState(false);
  const look = (role: Role) => void attempt(() => signInToDemo(role));
  if (second)
    return (
      <Frame title="Sign in to Chillbank">
        <CodeForm attempt={attempt} busy={busy} fault={fault} onBack={() => setSecond(false)} />
      </Frame>
    );
  return (
    <Frame title="Sign in to Chillbank">
      {demo && (
        <section className="demo-sign-in" aria-label="Demo">
          <p>{say("interface.people.demo")}</p>
          <Button type="primary" size="large" disabled={busy || !hydrated} onClick={() => look("owner")}>
            Look around the demo
          </Button>
          <p className="note">
            or as an{" "}
            <button type="button" className="plain" onClick={() => look("installer")}>
              installer
            </button>{" "}
            or an{" "}
            <button type="button" className="plain" onClick={() => look("apprentice")}>
              apprentice
            </button>
          </p>
        </section>
      )}
      <Form
        disabled={!hydrated}
        layout="vertical"
        requiredMark={false}
        onFinish={(typed: { email: string; password: string }) =>
          void attempt(async () => {
            const asked = await signIn(typed.email, typed.password);
            if (asked) setSecond(true);
            return asked && "step";
          })
        }
      >
        {email}
        <Form.Item name="password" label="Password" rules={need(say("interface.people.passwordMissing"))}>
          <Input.Password autoComplete="current-password" />
        </Form.Item>
        {fault}
        <Button htmlType="submit" type={demo ? "default" : "primary"} loading={busy}>
          Sign in
        </Button>
        <p className="note">{say("interface.people.forgotten")}</p>
      </Form>
    </Frame>
  );
}

const person = (
  <>
    <Form.Item name="name" label="Your name" rules={need(say("interface.people.name"))}>
      <Input autoComplete="name" maxLength={80} />
    </Form.Item>
    {email}
    <Form.Item
      name="password"
      label={`Password, at least ${SHORTEST_PASSWORD} characters`}
      rules={NEW_PASSWORD}
      validateTrigger="onBlur"
    >
      <Input.Password autoComplete="new-password" />
    </Form.Item>
  </>
);

/** The first page of a new installation: its workshop and owner, by the code that the console printed. */
export function FirstOwner() {
  const { busy, attempt, fault, hydrated } = useSending("/");
  return (
    <Frame title="Begin with Chillbank">
      <p>{say("interface.people.begin")}</p>
      <Form
        disabled={!hydrated}
        layout="vertical"
        requiredMark={false}
        onFinish={(typed: NewPerson & { workshop: string; code: string }) => void attempt(() => begin(typed))}
      >
        <Form.Item name="code" label="Code from the console" rules={need(say("interface.people.codeMissing"))}>
          <Input autoComplete="off" className="mono" autoFocus />
        </Form.Item>
        <Form.Item name="workshop" label="Name of the workshop" rules={need(say("interface.people.workshop"))}>
          <Input autoComplete="organization" maxLength={80} />
        </Form.Item>
        {person}
        {fault}
        <Button htmlType="submit" type="primary" loading={busy}>
          Make the workshop
        </Button>
      </Form>
    </Frame>
  );
}

/** Where an invitation leads: name, e-mail address and password of whoever was invited. */
export function Join({ token, ...invitation }: { token: string; by: string; workshop: string; role: string }) {
  const { busy, attempt, fault, hydrated } = useSending("/");
  return (
    <Frame title={`Join ${invitation.workshop}`}>
      <p>{say("interface.people.invitedAs", invitation)}</p>
      <Form
        disabled={!hydrated}
        layout="vertical"
        requiredMark={false}
        onFinish={(typed: NewPerson) => void attempt(() => join(token, typed))}
      >
        {person}
        {fault}
        <Button htmlType="submit" type="primary" loading={busy}>
          Join
        </Button>
      </Form>
    </Frame>
  );
}
