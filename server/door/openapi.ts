import { z } from "zod";
import { batchSchema, PURPOSE_NAMES, PURPOSES, RefusedSchema, TakenSchema } from "./shapes";

const shape = (schema: z.ZodType) => {
  const { $schema: _, ...json } = z.toJSONSchema(schema, { target: "draft-2020-12", io: "input" });
  return json;
};
const answer = (description: string, schema: string) => ({
  description,
  content: { "application/json": { schema: { $ref: `#/components/schemas/${schema}` } } },
});

/**
 * The door, described (OpenAPI 3.1.0); its schemas are those that check what comes.
 * @param origin where it stands
 */
export function openApi(origin: string, version: string) {
  const schemas = Object.fromEntries(
    PURPOSE_NAMES.map((purpose) => [`${purpose}Batch`, shape(batchSchema(purpose))]),
  );
  const refused = {
    400: answer("The body is not JSON, or too large.", "Refused"),
    401: answer("There is no key, or none that counts.", "Refused"),
    403: answer("The key is not for this.", "Refused"),
    409: answer("Another batch was sent under this name.", "Refused"),
    422: answer("Something in the batch is wrong; nothing of it was taken.", "Refused"),
    429: answer("The key was used too often; `Retry-After` says when to come again.", "Refused"),
  };
  return {
    openapi: "3.1.0",
    info: {
      title: "The door of Septima",
      version,
      description:
        "What other systems tell Septima. Everything comes in batches of up to 1,000 entries, under a name that the sender gives each: one that is sent twice counts once.",
      license: { name: "As agreed with whoever runs this Septima", identifier: "LicenseRef-own" },
    },
    servers: [{ url: origin }],
    security: [{ key: [] }],
    paths: Object.fromEntries(
      PURPOSE_NAMES.map((purpose) => {
        const { label, does, example } = PURPOSES[purpose];
        const body = {
          schema: { $ref: `#/components/schemas/${purpose}Batch` },
          examples: { one: { value: { batch: `${purpose}-1`, entries: [example] } } },
        };
        return [
          `/in/${purpose}`,
          {
            post: {
              operationId: purpose,
              summary: label,
              description: does,
              requestBody: { required: true, content: { "application/json": body } },
              responses: { 200: answer("It was taken.", "Taken"), ...refused },
            },
          },
        ];
      }),
    ),
    components: {
      securitySchemes: {
        key: { type: "http", scheme: "bearer", description: "A key made under Settings, Door." },
      },
      schemas: { ...schemas, Taken: shape(TakenSchema), Refused: shape(RefusedSchema) },
    },
  };
}
