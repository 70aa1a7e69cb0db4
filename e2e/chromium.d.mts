export const options: { executablePath: string; args: string[] }
