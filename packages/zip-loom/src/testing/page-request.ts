/** What a page asks for next. */
export interface PageRequest {
  url: URL;
  method: string;
  body?: BodyInit | undefined;
  type?: string | undefined;
}
