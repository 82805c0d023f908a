"use client";

import { App, Button, Form, Input, Popconfirm, Select, Table } from "antd";
import Link from "next/link";
import { useState } from "react";
import useSWR from "swr";
import {
  ABILITIES,
  ROLE_KEYS,
  ROLES,
  SHORTEST_PASSWORD,
  type ListedInvitation,
  type ListedPerson,
  type Me,
  type Role,
  type Use,
} from "@/contract/people";
import { say } from "@/core/messages/say";
import { useHydrated } from "../state/use-hydrated";
import { dateWords } from "../words";
import { AccountMenu } from "./account";
import { SecondFactor } from "./second-factor";
import { SharedAddress } from "./shared-address";
import { changePassword, changeRole, fetchPeople, invite, removePerson, withdrawInvitation } from "./people-calls";

const ROLE_OPTIONS = ROLE_KEYS.map((value) => ({ value, label: ROLES[value].label }));
const mayDo = (role: Role) => `${ROLES[role].label}: ${ROLES[role].may.map((one) => ABILITIES[one]).join("; ")}.`;

/** The workshop's people, and one's own password and one-time codes. */
export function PeoplePage({ me }: { me: Me }) {
  return (
    <main className="page">
      <header className="page-head">
        <h1>
          {me.workshop} <span className="note">people</span>
        </h1>
        <Link href="/">Jobs</Link>
        <AccountMenu />
      </header>
      {me.role === "owner" && <Workshop />}
      <Password />
      <SecondFactor on={me.secondFactor} />
    </main>
  );
}

function Workshop() {
  const { data, error, isLoading, mutate } = useSWR("people", fetchPeople);
  const { message } = App.useApp();
  const [invited, setInvited] = useState<string | null>(null);
  const attempt = async (what: () => Promise<unknown>) => {
    try {
      await what();
    } catch (failure) {
      void message.error((failure as Error).message, 6);
    }
    await mutate();
  };
  const make = (role: Role) => attempt(async () => setInvited((await invite(role)).path));
  return (
    <>
      <section aria-label="People">
        <h2>People</h2>
        {error && <p className="heat">{(error as Error).message}</p>}
        <Table<ListedPerson>
          size="small"
          rowKey="id"
          pagination={false}
          scroll={{ x: "100%" }}
          loading={isLoading}
          dataSource={data?.people ?? []}
          columns={[
            {
              title: "Name and e-mail address",
              // One under the other: beside one another they leave a phone no room for the role.
              render: (_, { name, email, me: own }) => (
                <>
                  {own ? `${name} (you)` : name}
                  <span className="note address">{email}</span>
                </>
              ),
            },
            {
              title: "Role",
              render: (_, one) => (
                <Select
                  aria-label={`Role of ${one.name}`}
                  value={one.role}
                  options={ROLE_OPTIONS}
                  onChange={(role) => void attempt(() => changeRole(one.id, role))}
                  style={{ width: 130 }}
                />
              ),
            },
            {
              title: "",
              render: (_, one) =>
                !one.me && (
                  <Popconfirm
                    title={say("interface.people.remove", { name: one.name })}
                    okText="Take out"
                    styles={{ root: { maxWidth: 420 } }}
                    onConfirm={() => attempt(() => removePerson(one.id))}
                  >
                    <Button size="small">Take out</Button>
                  </Popconfirm>
                ),
            },
          ]}
        />
        <ul className="note">
          {ROLE_KEYS.map((role) => (
            <li key={role}>{mayDo(role)}</li>
          ))}
          <li>{say("interface.people.lesserRole")}</li>
        </ul>
      </section>
      <section aria-label="Invitations">
        <h2>Invite somebody</h2>
        <p>{say("interface.people.invite")}</p>
        <p>
          {ROLE_KEYS.map((role) => (
            <Button key={role} onClick={() => void make(role)} style={{ marginRight: 8 }}>
              Invite an {ROLES[role].label.toLowerCase()}
            </Button>
          ))}
        </p>
        {invited && (
          <div className="invited" role="status">
            <SharedAddress path={invited} label="Address of the invitation" />
            <p className="note">{say("interface.people.invited")}</p>
          </div>
        )}
        {data && data.invitations.length > 0 && (
          <Table<ListedInvitation>
            size="small"
            rowKey="id"
            pagination={false}
            scroll={{ x: "100%" }}
            dataSource={data.invitations}
            columns={[
              { title: "Open invitation", dataIndex: "role", render: (role: Role) => ROLES[role].label },
              { title: "By", dataIndex: "invitedBy" },
              {
                title: "Until",
                dataIndex: "expiresAt",
                render: dateWords,
              },
              {
                title: "",
                render: (_, { id }) => (
                  <Button size="small" onClick={() => void attempt(() => withdrawInvitation(id))}>
                    Withdraw
                  </Button>
                ),
              },
            ]}
          />
        )}
      </section>
      {data && <Room use={data.use} />}
    </>
  );
}

const USES = [
  ["jobs", "Jobs"],
  ["parts", "Parts on the shelf"],
  ["people", "People"],
  ["readings", "Readings of test runs"],
] as const;
const count = new Intl.NumberFormat("en-GB");
const size = (bytes: number) =>
  bytes < 1e9
    ? `${(bytes / 1e6).toLocaleString("en-GB", { maximumFractionDigits: bytes < 1e7 ? 1 : 0 })} MB`
    : `${(bytes / 1e9).toLocaleString("en-GB", { maximumFractionDigits: 1 })} GB`;

/** What the workshop keeps here, and how much it may. */
function Room({ use }: { use: Use }) {
  return (
    <section aria-label="Room on this server">
      <h2>Room on this server</h2>
      <dl className="uses">
        {USES.map(([kind, label]) => (
          <div key={kind}>
            <dt>{label}</dt>
            <dd>
              {count.format(use[kind].now)} of {count.format(use[kind].most)}
            </dd>
          </div>
        ))}
        <div>
          <dt>Photos and imported logs</dt>
          <dd>
            {size(use.bytes.now)} of {size(use.bytes.most)}
          </dd>
        </div>
      </dl>
      <p className="note">{say("interface.people.room")}</p>
    </section>
  );
}

function Password() {
  const [form] = Form.useForm<{ current: string; next: string }>();
  const { message } = App.useApp();
  const hydrated = useHydrated();
  const [busy, setBusy] = useState(false);
  const send = async ({ current, next }: { current: string; next: string }) => {
    setBusy(true);
    try {
      await changePassword(current, next);
      form.resetFields();
      void message.success(say("interface.people.passwordChanged"), 6);
    } catch (error) {
      void message.error((error as Error).message, 6);
    }
    setBusy(false);
  };
  const least = say("interface.people.password", { least: SHORTEST_PASSWORD });
  return (
    <section aria-label="Password" className="sign-in">
      <h2>Change your password</h2>
      <Form
        form={form}
        disabled={!hydrated}
        layout="vertical"
        requiredMark={false}
        onFinish={(typed) => void send(typed)}
      >
        <Form.Item
          name="current"
          label="Current password"
          rules={[{ required: true, message: say("interface.people.passwordMissing") }]}
        >
          <Input.Password autoComplete="current-password" />
        </Form.Item>
        <Form.Item
          name="next"
          label={`New password, at least ${SHORTEST_PASSWORD} characters`}
          rules={[{ required: true, min: SHORTEST_PASSWORD, message: least }]}
        >
          <Input.Password autoComplete="new-password" />
        </Form.Item>
        <Button htmlType="submit" loading={busy}>
          Change it
        </Button>
      </Form>
    </section>
  );
}
