"use client";

import { App, ConfigProvider, type ThemeConfig } from "antd";
import type { ReactNode } from "react";
import { PALETTE } from "./palette";

const theme: ThemeConfig = {
  // The style sheet is one cacheable file; nothing is injected at run time, so nothing flashes.
  zeroRuntime: true,
  cssVar: { key: "chillbank" },
  hashed: false,
  token: {
    colorPrimary: PALETTE.cold,
    colorInfo: PALETTE.cold,
    colorLink: PALETTE.cold,
    colorSuccess: PALETTE.cold,
    colorWarning: PALETTE.sun,
    colorError: PALETTE.heat,
    colorText: PALETTE.ink,
    colorTextSecondary: PALETTE.faded,
    colorTextPlaceholder: PALETTE.faded,
    colorBgBase: PALETTE.paper,
    colorBgContainer: PALETTE.page,
    colorBgElevated: PALETTE.page,
    colorBorder: PALETTE.rule,
    colorBorderSecondary: PALETTE.hair,
    borderRadius: 2,
    borderRadiusLG: 2,
    borderRadiusSM: 2,
    fontFamily: "'Atkinson Hyperlegible Next Variable', sans-serif",
    fontFamilyCode: "'Atkinson Hyperlegible Mono Variable', monospace",
    fontSize: 14,
    controlHeight: 32,
    motionDurationMid: "0.1s",
    motionDurationSlow: "0.15s",
    boxShadow: "0 2px 10px rgba(20, 36, 46, 0.18)",
    boxShadowSecondary: "0 2px 10px rgba(20, 36, 46, 0.18)",
  },
};

/** Ant Design in this application's paper and ink; messages and dialogs for everything inside. */
export function Theme({ children }: { children: ReactNode }) {
  return (
    <ConfigProvider theme={theme} wave={{ disabled: true }}>
      <App component={false}>{children}</App>
    </ConfigProvider>
  );
}
