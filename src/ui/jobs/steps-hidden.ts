/** The cookie that says that the first steps were put away: the server leaves them out, so that nothing moves as the page awakes. */
export const STEPS_HIDDEN = "chillbank-steps-hidden";
