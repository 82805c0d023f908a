"use client";

import { App, Button, Form, Input, QRCode } from "antd";
import { useState } from "react";
import type { SecondFactorBegun } from "@/contract/people";
import { say } from "@/core/messages/say";
import { useHydrated } from "../state/use-hydrated";
import { beginSecondFactor, confirmSecondFactor, endSecondFactor } from "./people-calls";

const PASSWORD = [{ required: true, message: say("interface.people.passwordMissing") }];
const CODE = [{ required: true, message: say("interface.people.code") }];

/** The key of a secret's address, in groups of four as it is typed. */
const keyOf = (address: string) => new URL(address).searchParams.get("secret")?.replace(/(.{4})(?=.)/g, "$1 ") ?? "";

/** One-time codes beside the password: how they are begun, and ended. */
export function SecondFactor({ on }: { on: boolean }) {
  const { message } = App.useApp();
  const hydrated = useHydrated();
  const [busy, setBusy] = useState(false);
  const [begun, setBegun] = useState<SecondFactorBegun | null>(null);
  const attempt = async (what: () => Promise<unknown>) => {
    setBusy(true);
    try {
      await what();
    } catch (error) {
      void message.error((error as Error).message, 6);
    }
    setBusy(false);
  };
  // A whole load: the session is a new one.
  const again = () => window.location.reload();
  if (begun)
    return (
      <Section>
        <p>{say("interface.people.codesScan")}</p>
        <div className="codes-scan">
          <QRCode value={begun.address} size={190} color="#14242e" bgColor="#ffffff" />
          <p className="mono" aria-label="Key">
            {keyOf(begun.address)}
          </p>
        </div>
        <p>{say("interface.people.codesRecovery")}</p>
        <ul className="codes-recovery mono" aria-label="Recovery codes">
          {begun.recoveryCodes.map((code) => (
            <li key={code}>{code}</li>
          ))}
        </ul>
        <Form
          layout="vertical"
          requiredMark={false}
          onFinish={({ code }: { code: string }) =>
            void attempt(async () => {
              await confirmSecondFactor(code);
              again();
            })
          }
        >
          <Form.Item name="code" label="Six digits" rules={CODE}>
            <Input inputMode="numeric" autoComplete="one-time-code" maxLength={7} style={{ width: 140 }} />
          </Form.Item>
          <Button htmlType="submit" type="primary" loading={busy}>
            Ask for codes from now on
          </Button>{" "}
          <Button onClick={() => setBegun(null)}>Leave it</Button>
        </Form>
      </Section>
    );
  return (
    <Section>
      <p>{say(on ? "interface.people.codesOn" : "interface.people.codesAre")}</p>
      {on && <p className="note">{say("interface.people.codesLost")}</p>}
      <Form
        disabled={!hydrated}
        layout="vertical"
        requiredMark={false}
        onFinish={({ password }: { password: string }) =>
          void attempt(async () => {
            if (!on) return setBegun(await beginSecondFactor(password));
            await endSecondFactor(password);
            again();
          })
        }
      >
        <Form.Item name="password" label="Current password" rules={PASSWORD}>
          <Input.Password autoComplete="current-password" />
        </Form.Item>
        <Button htmlType="submit" loading={busy}>
          {on ? "Ask for no codes any more" : "Set up one-time codes"}
        </Button>
      </Form>
    </Section>
  );
}

const Section = ({ children }: { children: React.ReactNode }) => (
  <section aria-label="One-time codes" className="sign-in">
    <h2>One-time codes</h2>
    {children}
  </section>
);
