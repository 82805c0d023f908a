"use client";

import { createCache, extractStyle, StyleProvider } from "@ant-design/cssinjs";
import { useServerInsertedHTML } from "next/navigation";
import { useRef, type ReactNode } from "react";

/**
 * What the component library derives from the theme: the same for every request, so that a server derives it once. A cache
 * for each request took a tenth of a page's time.
 */
const derived = createCache();

/** Sends the theme's variables with the page, so that it stands styled before any script. */
export function StylesOfServer({ children }: { children: ReactNode }) {
  const sent = useRef("");
  useServerInsertedHTML(() => {
    const styles = extractStyle(derived, true);
    // Parts of a page that come later may have derived more.
    if (styles === sent.current) return null;
    sent.current = styles;
    return (
      <style
        id="antd-cssinjs"
        // Before what the library writes in the browser.
        data-rc-order="prepend"
        data-rc-priority="-1000"
        // In a layer, so that what the browser writes when the theme changes goes before it wherever it stands: while a
        // server is cold it may be sent once more, in the middle of the page.
        dangerouslySetInnerHTML={{ __html: `@layer server {${styles}}` }}
      />
    );
  });
  return <StyleProvider cache={derived}>{children}</StyleProvider>;
}
