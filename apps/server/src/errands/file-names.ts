/** Names in a ZIP file are paths: a tag, or what somebody called a file, must not be one. */
export const asName = (name: string): string => name.replace(/[/\\:*?"<>|\p{Cc}]/gu, '_').replace(/^\.+/, '_')
