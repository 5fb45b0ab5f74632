/** Names of a project's own helper functions, by what they do. */
export interface HelperNames {
  render: readonly string[];
  act: readonly string[];
  assert: readonly string[];
  query: readonly string[];
}
