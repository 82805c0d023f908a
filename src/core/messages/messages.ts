import { HANDOVER_MESSAGES } from "./catalogue/handover";
import { INSPECTION_MESSAGES } from "./catalogue/inspection";
import { INPUT_MESSAGES } from "./catalogue/input";
import { INTERFACE_MESSAGES } from "./catalogue/interface";
import { NOTICE_MESSAGES } from "./catalogue/notices";
import { SERVER_MESSAGES } from "./catalogue/server";
import { TEST_RUN_MESSAGES } from "./catalogue/test-run";
import { VERDICT_MESSAGES } from "./catalogue/verdicts";

/**
 * All sentences of the application, each once, in ICU MessageFormat: the screen, the command line, the documents and the
 * customer's page say the same. A translation is another record with the same keys.
 */
export const MESSAGES = {
  ...VERDICT_MESSAGES,
  ...NOTICE_MESSAGES,
  ...HANDOVER_MESSAGES,
  ...INSPECTION_MESSAGES,
  ...TEST_RUN_MESSAGES,
  ...INPUT_MESSAGES,
  ...SERVER_MESSAGES,
  ...INTERFACE_MESSAGES,
};

export type MessageKey = keyof typeof MESSAGES;
