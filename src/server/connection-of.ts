/** What a driver needs to connect by a `mysql://` address: UTC throughout, utf8mb4. */
export function connectionOf(url: string) {
  const { hostname, port, username, password, pathname } = new URL(url);
  return {
    host: hostname,
    port: Number(port || 3306),
    user: decodeURIComponent(username),
    password: decodeURIComponent(password),
    database: decodeURIComponent(pathname.slice(1)),
    charset: "utf8mb4",
    timezone: "Z",
    connectTimeout: 10_000,
  };
}
