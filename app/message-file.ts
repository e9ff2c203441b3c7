/** A message as a file to take away. @param name without an ending */
export const messageFile = (source: Uint8Array, name: string): Response =>
  new Response(new Uint8Array(source), {
    headers: {
      "content-type": "message/rfc822",
      "content-disposition": `attachment; filename="${name}.eml"`,
    },
  });
