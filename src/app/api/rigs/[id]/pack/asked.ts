import { z } from "zod";
import type { Plan } from "@/core/path/plan";
import { PLAN_FONT } from "@/server/pack-pdf";
import { planSvg } from "@/ui/pictures/plan-svg";

const askedSchema = z.object({ paper: z.enum(["a4", "letter"]).optional() });

/** What is asked of a pack in its address, or null. */
export function askedPack(request: Request): z.infer<typeof askedSchema> | null {
  const asked = askedSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  return asked.success ? asked.data : null;
}
export const ASKED_WRONG = { status: 400, message: "paper: a4 or letter" };

export const drawPlan = (plan: Plan): string => planSvg(plan, PLAN_FONT);
