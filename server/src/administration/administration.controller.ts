import { Body, Controller, Delete, Get, Param, ParseUUIDPipe, Post, Put, Query } from '@nestjs/common';
import { IsBoolean, IsIn, IsOptional, IsString, MaxLength } from 'class-validator';
import type {
  AdministeredCourse,
  AdministeredPerson,
  CourseMakers,
  MadeLink,
  Permission,
  ServerLog,
} from '../api/api.js';
import { SignedIn, type Person } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { Administration } from './administration.service.js';

export class CourseMakersBody implements CourseMakers {
  @IsIn(['invited', 'anyone'], { message: 'Courses are made by “invited” or by “anyone”.' })
  who: CourseMakers['who'];
}

export class PermissionBody implements Permission {
  @IsBoolean({ message: 'Say whether the person may make courses.' }) makesCourses: boolean;
}

export class PeopleQuery {
  @IsOptional() @IsString() @MaxLength(100) search = '';
}

@Controller()
export class AdministrationController {
  constructor(private readonly administration: Administration) {}

  @Get('administration/people')
  @Route('administrator', { answers: 'AdministeredPerson', list: true, query: PeopleQuery })
  people(@Query() { search }: PeopleQuery): Promise<AdministeredPerson[]> {
    return this.administration.people(search);
  }

  @Put('administration/people/:person')
  @Route('administrator', { takes: 'Permission', status: 204 })
  allow(
    @SignedIn() by: Person,
    @Param('person', ParseUUIDPipe) id: string,
    @Body() { makesCourses }: PermissionBody,
  ): Promise<void> {
    return this.administration.allow(by, id, makesCourses);
  }

  @Post('administration/people/:person/password-link')
  @Route('administrator', { answers: 'MadeLink', status: 201 })
  passwordLink(@SignedIn() by: Person, @Param('person', ParseUUIDPipe) id: string): Promise<MadeLink> {
    return this.administration.passwordLink(by, id);
  }

  @Delete('administration/people/:person')
  @Route('administrator', { status: 204 })
  deletePerson(@SignedIn() by: Person, @Param('person', ParseUUIDPipe) id: string): Promise<void> {
    return this.administration.deletePerson(by, id);
  }

  @Get('administration/courses')
  @Route('administrator', { answers: 'AdministeredCourse', list: true })
  courses(): Promise<AdministeredCourse[]> {
    return this.administration.courses();
  }

  @Delete('administration/courses/:id')
  @Route('administrator', { status: 204 })
  deleteCourse(@SignedIn() by: Person, @Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.administration.deleteCourse(by, id);
  }

  @Get('administration/log')
  @Route('administrator', { answers: 'ServerLog', list: true })
  log(): Promise<ServerLog[]> {
    return this.administration.log();
  }

  @Get('administration/course-makers')
  @Route('administrator', { answers: 'CourseMakers' })
  courseMakers(): Promise<CourseMakers> {
    return this.administration.courseMakers();
  }

  @Put('administration/course-makers')
  @Route('administrator', { takes: 'CourseMakers', status: 204 })
  setCourseMakers(@SignedIn() by: Person, @Body() body: CourseMakersBody): Promise<void> {
    return this.administration.setCourseMakers(by, body);
  }

  /** Makes the first administrator, by the link that the start of the server printed. */
  @Post('administrator-links/:secret')
  @Route('person', { status: 204 })
  claim(@SignedIn() person: Person, @Param('secret') secret: string): Promise<void> {
    return this.administration.claim(person, secret);
  }
}
