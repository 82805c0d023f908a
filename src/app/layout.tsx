import { AntdRegistry } from "@ant-design/nextjs-registry";
import type { Metadata, Viewport } from "next";
import type { ReactNode } from "react";
import "@fontsource-variable/atkinson-hyperlegible-next";
import "@fontsource-variable/atkinson-hyperlegible-mono";
import "antd/dist/antd.css";
import "@/ui/styles/sheet.css";
import { Theme } from "@/ui/theme";

export const metadata: Metadata = {
  title: { default: "Chillbank", template: "%s · Chillbank" },
  description: "Does it start, is it carried, does it last: air conditioning off-grid, with its sums.",
};
export const viewport: Viewport = { width: "device-width", initialScale: 1, themeColor: "#faf8f2" };

export default function Layout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body className="chillbank">
        <AntdRegistry>
          <Theme>{children}</Theme>
        </AntdRegistry>
      </body>
    </html>
  );
}
