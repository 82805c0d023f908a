import type { Metadata } from "next";
import { QuickAnswer } from "@/ui/quick/quick-answer";

export const metadata: Metadata = { title: "Two-minute answer" };

export default function QuickPage() {
  return <QuickAnswer />;
}
