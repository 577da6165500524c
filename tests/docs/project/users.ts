export interface User {
  name: string;
  isStaff: boolean;
}
