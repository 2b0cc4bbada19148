// What the HTTP API takes and answers of the administration of the server.

/** Who may make courses: those whom the administrator has allowed it, or everybody. */
export interface CourseMakers {
  readonly who: 'invited' | 'anyone';
}

export interface Permission {
  readonly makesCourses: boolean;
}

export interface AdministeredPerson {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly administers: boolean;
  readonly makesCourses: boolean;
  readonly courses: number;
  readonly submissions: number;
}

export interface AdministeredCourse {
  readonly id: string;
  readonly name: string;
  readonly instructors: string;
  readonly students: number;
  readonly createdAt: string;
}

/** Something that an administrator did, or that outlasts what it was done to. */
export interface ServerLog {
  readonly id: string;
  readonly at: string;
  readonly by: string;
  readonly text: string;
}
