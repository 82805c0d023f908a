"use client";

import { App, Button, Popconfirm, Space, Table } from "antd";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { say } from "@/core/messages/say";
import { AccountMenu } from "../people/account";
import { eraseJob, restoreJob } from "../state/server-calls";
import { dateWords } from "../words";

interface Deleted {
  id: string;
  name: string;
  by: string;
  deletedAt: string;
  until: string;
}

/** Jobs that were deleted and can still be brought back. */
export function DeletedJobs({
  jobs,
  may,
  days,
}: {
  jobs: Deleted[];
  may: { restore: boolean; erase: boolean };
  days: number;
}) {
  const router = useRouter();
  const { message } = App.useApp();
  const attempt = async (what: () => Promise<unknown>) => {
    try {
      await what();
      router.refresh();
    } catch (error) {
      void message.error((error as Error).message, 6);
    }
  };
  return (
    <main className="page">
      <header className="page-head">
        <h1>
          Chillbank <span className="note">deleted jobs</span>
        </h1>
        <Link href="/">Jobs</Link>
        <AccountMenu />
      </header>
      <p className="note">{say("interface.deleted.kept", { days })}</p>
      <Table<Deleted>
        size="small"
        rowKey="id"
        pagination={false}
        scroll={{ x: "100%" }}
        dataSource={jobs}
        locale={{ emptyText: <span className="note">{say("interface.deleted.none", { days })}</span> }}
        columns={[
          { title: "Job", dataIndex: "name" },
          { title: "Deleted", dataIndex: "deletedAt", render: dateWords },
          { title: "By", dataIndex: "by", responsive: ["sm"] },
          { title: "Erased on", dataIndex: "until", render: dateWords, responsive: ["sm"] },
          {
            title: "",
            render: (_, { id, name }) => (
              <Space size="small" wrap>
                {may.restore && (
                  <Button size="small" onClick={() => void attempt(() => restoreJob(id))}>
                    Bring back
                  </Button>
                )}
                {may.erase && (
                  <Popconfirm
                    title={say("interface.deleted.erase", { name })}
                    okText="Erase for good"
                    okButtonProps={{ danger: true }}
                    onConfirm={() => attempt(() => eraseJob(id))}
                  >
                    <Button size="small" danger>
                      Erase
                    </Button>
                  </Popconfirm>
                )}
              </Space>
            ),
          },
        ]}
      />
    </main>
  );
}
