/** Asks the browser not to clear what is kept when room runs short. False where it does not promise that. */
export async function askForPersistence(): Promise<boolean> {
  try {
    const { storage } = navigator;
    return (await storage?.persisted?.()) || (await storage?.persist?.()) || false;
  } catch {
    return false;
  }
}
