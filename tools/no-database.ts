/** Why a database cannot be used, in one line without its password; null where it is something else. */
export function wordsOfNoDatabase(error: unknown, address: string): string | null {
  const { hostname, port, username, pathname } = new URL(address);
  const where = `${hostname}:${port || 3306}`;
  switch ((error as { code?: string } | null)?.code) {
    case "ER_ACCESS_DENIED_ERROR":
    case "ER_ACCESS_DENIED_NO_PASSWORD_ERROR":
      return `DATABASE_URL: the database at ${where} refuses the user ${username} or the password. See docs/operating.md.`;
    case "ER_DBACCESS_DENIED_ERROR":
      return `DATABASE_URL: the user ${username} has no rights to the database ${pathname.slice(1)} at ${where}. See docs/operating.md.`;
    case "ER_BAD_DB_ERROR":
      return `DATABASE_URL: there is no database ${pathname.slice(1)} at ${where}. Make it first: see docs/operating.md.`;
    case "ECONNREFUSED":
    case "ETIMEDOUT":
    case "EHOSTUNREACH":
      return `DATABASE_URL: no database answers at ${where}. Is it started?`;
    case "ENOTFOUND":
    case "EAI_AGAIN":
      return `DATABASE_URL: there is no machine called ${hostname}.`;
    default:
      return null;
  }
}
