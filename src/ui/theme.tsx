"use client";

import { Provider as MotionProvider } from "@rc-component/motion";
import { App, ConfigProvider, theme as antTheme, type ThemeConfig } from "antd";
import { useEffect, useSyncExternalStore, type ReactNode } from "react";
import { repeatEarlyClick } from "./early-click";
import { DARK, PALETTE, type Palette } from "./palette";
import { THEME_CHANGED } from "./frame/theme-choice";

const themeOf = (palette: Palette, dark: boolean): ThemeConfig => ({
  // The style sheet is one cacheable file; only the components' own variables follow the theme at run time.
  zeroRuntime: true,
  cssVar: { key: "chillbank" },
  hashed: false,
  algorithm: dark ? antTheme.darkAlgorithm : antTheme.defaultAlgorithm,
  token: {
    colorPrimary: palette.cold,
    colorInfo: palette.cold,
    colorLink: palette.cold,
    colorSuccess: palette.cold,
    colorWarning: palette.sun,
    colorError: palette.heat,
    colorText: palette.ink,
    colorTextSecondary: palette.faded,
    colorTextPlaceholder: palette.faded,
    colorTextLightSolid: palette.page,
    colorBgBase: palette.paper,
    colorBgContainer: palette.page,
    colorBgElevated: palette.page,
    colorBorder: palette.rule,
    colorBorderSecondary: palette.hair,
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
});
const LIGHT_THEME = themeOf(PALETTE, false);
const DARK_THEME = themeOf(DARK, true);

const PREFERS_DARK = "(prefers-color-scheme: dark)";
const isDark = (): boolean => {
  const { theme } = document.documentElement.dataset;
  return theme === "dark" || (theme !== "light" && window.matchMedia(PREFERS_DARK).matches);
};
const subscribe = (changed: () => void) => {
  const media = window.matchMedia(PREFERS_DARK);
  media.addEventListener("change", changed);
  window.addEventListener(THEME_CHANGED, changed);
  return () => {
    media.removeEventListener("change", changed);
    window.removeEventListener(THEME_CHANGED, changed);
  };
};

const PREFERS_STILL = "(prefers-reduced-motion: reduce)";
const isStill = (): boolean => window.matchMedia(PREFERS_STILL).matches;
const subscribeStill = (changed: () => void) => {
  const media = window.matchMedia(PREFERS_STILL);
  media.addEventListener("change", changed);
  return () => media.removeEventListener("change", changed);
};

/** Says to the style sheet that the page's scripts have taken over: from here on a click is heard, and one from before repeated. */
const markAwake = () => {
  document.documentElement.dataset.awake = "";
  setTimeout(repeatEarlyClick);
};

/**
 * Ant Design in this application's paper and ink, by day and by night; messages and dialogs for everything inside. Where no
 * motion is wanted its components have to be told: with movements taken away by the style sheet alone they wait for their end, and no
 * list opens and no dialog closes.
 */
export function Theme({ children }: { children: ReactNode }) {
  const dark = useSyncExternalStore(subscribe, isDark, () => false);
  const still = useSyncExternalStore(subscribeStill, isStill, () => false);
  useEffect(markAwake, []);
  return (
    <ConfigProvider theme={dark ? DARK_THEME : LIGHT_THEME} wave={{ disabled: true }}>
      <MotionProvider motion={!still}>
        <App component={false}>{children}</App>
      </MotionProvider>
    </ConfigProvider>
  );
}
