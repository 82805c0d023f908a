"use client";

import { App, Dropdown, Modal } from "antd";
import Link from "next/link";
import { usePathname } from "next/navigation";
import { createContext, useContext, useEffect, useState, type ReactNode } from "react";
import { SIGNED_OUT } from "@/contract/client";
import { ROLES, roleMay, type Ability, type Me } from "@/contract/people";
import { say } from "@/core/messages/say";
import { forget, unsentHere } from "../state/kept-here";
import { endSession } from "./people-calls";

const Account = createContext<Me | null>(null);

/** Whether whoever is signed in may do something; the server asks too. */
export function useMay(ability: Ability): boolean {
  const me = useContext(Account);
  return me !== null && roleMay(me.role, ability);
}

/** Address that others reach this Chillbank by; null where it is known on this machine alone. */
export const useBase = (): string | null => useContext(Account)?.base ?? null;

/** Tells every view beneath who is signed in, and says so where the session has ended meanwhile. */
export function AccountProvider({ me, children }: { me: Me | null; children: ReactNode }) {
  const [ended, setEnded] = useState(false);
  const path = usePathname();
  useEffect(() => {
    const onEnd = () => setEnded(me !== null);
    window.addEventListener(SIGNED_OUT, onEnd);
    return () => window.removeEventListener(SIGNED_OUT, onEnd);
  }, [me]);
  return (
    <Account value={me}>
      {children}
      <Modal open={ended} title="You are signed out" footer={null} onCancel={() => setEnded(false)}>
        <p>{say("interface.people.sessionEnded")}</p>
        {/* A page of its own, so that what was typed here stays until it is saved. */}
        <a href={`/sign-in?to=${encodeURIComponent(path)}`} target="_blank" rel="noreferrer">
          Sign in in a new window
        </a>
      </Modal>
    </Account>
  );
}

/** Who is signed in, with what they can do about it. */
export function AccountMenu() {
  const me = useContext(Account);
  const { modal, message } = App.useApp();
  if (!me) return null;
  const leave = async (everywhere: boolean) => {
    const go = async () => {
      try {
        await endSession(everywhere);
        await forget();
        window.location.assign("/sign-in");
      } catch (error) {
        void message.error((error as Error).message, 6);
      }
    };
    const unsent = await unsentHere();
    if (unsent === 0) return go();
    modal.confirm({
      title: "Readings or photos wait to be sent",
      content: say("interface.people.unsent", { unsent }),
      okText: "Sign out and lose them",
      okButtonProps: { danger: true },
      cancelText: "Stay signed in",
      onOk: go,
    });
  };
  return (
    <Dropdown
      trigger={["click"]}
      menu={{
        items: [
          { key: "who", type: "group", label: `${me.name}, ${ROLES[me.role].label.toLowerCase()}, ${me.workshop}` },
          {
            key: "people",
            label: <Link href="/people">{me.role === "owner" ? "People and password" : "Password"}</Link>,
          },
          { key: "out", label: "Sign out", onClick: () => void leave(false) },
          { key: "everywhere", label: "Sign out on every machine", onClick: () => void leave(true) },
        ],
      }}
    >
      <button type="button" className="plain account">
        {me.name}
      </button>
    </Dropdown>
  );
}
