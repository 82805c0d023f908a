import type { Metadata, Viewport } from "next";
import { headers } from "next/headers";
import type { ReactNode } from "react";
import "@fontsource-variable/atkinson-hyperlegible-next";
import "@fontsource-variable/atkinson-hyperlegible-mono";
import "antd/dist/antd.css";
import "@/ui/styles/palette.css";
import "@/ui/styles/tokens.css";
import "@/ui/frame/frame.css";
import "@/ui/stages/worksheet.css";
import "@/ui/pictures/pictures.css";
import "@/ui/stages/circuits.css";
import "@/ui/jobs/jobs.css";
import "@/ui/stages/day.css";
import "@/ui/stages/test-run.css";
import "@/ui/phone/phone.css";
import "@/ui/styles/small-screens.css";
import "@/ui/frame/help.css";
import "@/ui/stages/options.css";
import "@/ui/stages/fault-finding.css";
import "@/ui/stages/commissioning.css";
import "@/ui/stages/handover.css";
import "@/ui/stages/rules.css";
import "@/ui/people/people.css";
import "@/ui/styles/antd-dark.css";
import { database } from "@/server/database";
import { whoVisits } from "@/server/page-who";
import { meOf } from "@/server/people";
import { KEEP_EARLY_CLICK } from "@/ui/early-click";
import { AccountProvider } from "@/ui/people/account";
import { StylesOfServer } from "@/ui/styles-of-server";
import { Theme } from "@/ui/theme";
import { say } from "@/core/messages/say";

export const metadata: Metadata = {
  title: { default: "Chillbank", template: "%s · Chillbank" },
  description: say("interface.description"),
};
export const viewport: Viewport = {
  width: "device-width",
  initialScale: 1,
  themeColor: [
    { media: "(prefers-color-scheme: light)", color: "#faf8f2" },
    { media: "(prefers-color-scheme: dark)", color: "#121a1e" },
  ],
};

/** The schema library compiles its checks where it may; the page's policy forbids that, and asking alone would be reported. */
const NO_COMPILING = "globalThis.__zod_globalConfig={jitless:true};";

/** Puts the theme that somebody chose in place before the first paint; without a choice the system's holds. */
const CHOSEN_THEME = `try{const t=localStorage.getItem("chillbank.theme");if(t==="dark"||t==="light")document.documentElement.dataset.theme=t}catch{}`;

export default async function Layout({ children }: { children: ReactNode }) {
  // The browser runs inline scripts that carry the number of this very request (src/proxy.ts).
  const nonce = (await headers()).get("x-nonce") ?? undefined;
  const who = await whoVisits();
  const me = who && (await meOf(database(), who));
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <script nonce={nonce} dangerouslySetInnerHTML={{ __html: NO_COMPILING + CHOSEN_THEME + KEEP_EARLY_CLICK }} />
      </head>
      <body className="chillbank">
        <StylesOfServer>
          <Theme>
            <AccountProvider me={me}>{children}</AccountProvider>
          </Theme>
        </StylesOfServer>
      </body>
    </html>
  );
}
