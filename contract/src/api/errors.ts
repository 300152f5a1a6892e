/** The one table of error codes with their HTTP status. Core's problem codes are 422 unless named here. */
export const HTTP_ERRORS = {
  'not-signed-in': 401,
  'sign-in-failed': 401,
  'password-wrong': 401,
  forbidden: 403,
  'not-found': 404,
  'id-taken': 409,
  'chain-broken': 409,
  'head-moved': 409,
  'pictures-pending': 409,
  'too-large': 413,
  'not-a-picture': 415,
  'picture-mismatch': 422,
  'location-data': 422,
  'input-invalid': 422,
  'entry-invalid': 422,
  'version-too-new': 422,
  'too-many': 429,
  'cross-site': 403,
  internal: 500,
  'not-ready': 503,
} as const;
export type HttpErrorCode = keyof typeof HTTP_ERRORS;
