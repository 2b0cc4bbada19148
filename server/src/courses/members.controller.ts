import {
  Body,
  Controller,
  Delete,
  Get,
  Param,
  ParseUUIDPipe,
  Post,
  Put,
  Query,
  UploadedFile,
  UseInterceptors,
} from '@nestjs/common';
import { ApiBody, ApiConsumes } from '@nestjs/swagger';
import { IsIn, IsOptional, IsString, Matches, MaxLength, ValidateIf } from 'class-validator';
import type { ChangeRole, MadeLink, Member, RosterPreview, RosterResult, SetSection } from '../api/api.js';
import { Calling, type Caller } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { FILE_FORM, uploadedBytes, UploadedTo } from '../platform/files/upload.js';
import { Members } from './members.service.js';

const LARGEST_ROSTER = 1024 * 1024;

export class ChangeRoleBody implements ChangeRole {
  @IsIn(['student'], {
    message: 'A member is made a student at once. To make somebody an assistant, invite them as one.',
  })
  role: ChangeRole['role'];
}

export class SectionBody implements SetSection {
  @ValidateIf(({ section }: SectionBody) => section !== null)
  @IsString()
  @MaxLength(60, { message: 'A section has a name of up to 60 characters.' })
  @Matches(/\S/, { message: 'A section has a name; for none, leave it out.' })
  section: string | null;
}

export class RemovalQuery {
  /** Whether what the person handed in is deleted too. */
  @IsOptional() @IsIn(['keep', 'delete']) work: 'keep' | 'delete' = 'keep';
}

@Controller('courses/:course')
export class MembersController {
  constructor(private readonly members: Members) {}

  @Get('people')
  @Route('instructor', { answers: 'Member', list: true })
  list(@Calling() caller: Caller): Promise<Member[]> {
    return this.members.list(caller);
  }

  @Put('people/:person')
  @Route('instructor', { takes: 'ChangeRole', status: 204 })
  changeRole(
    @Calling() caller: Caller,
    @Param('person', ParseUUIDPipe) person: string,
    @Body() body: ChangeRoleBody,
  ): Promise<void> {
    return this.members.changeRole(caller, person, body);
  }

  @Put('people/:person/section')
  @Route('instructor', { takes: 'SetSection', status: 204 })
  setSection(
    @Calling() caller: Caller,
    @Param('person', ParseUUIDPipe) person: string,
    @Body() { section }: SectionBody,
  ): Promise<void> {
    return this.members.setSection(caller, person, section);
  }

  @Delete('people/:person')
  @Route('instructor', { status: 204, query: RemovalQuery })
  remove(
    @Calling() caller: Caller,
    @Param('person', ParseUUIDPipe) person: string,
    @Query() { work }: RemovalQuery,
  ): Promise<void> {
    return this.members.remove(caller, person, work === 'delete');
  }

  @Post('people/:person/password-link')
  @Route('instructor', { answers: 'MadeLink', status: 201 })
  passwordLink(@Calling() caller: Caller, @Param('person', ParseUUIDPipe) person: string): Promise<MadeLink> {
    return this.members.passwordLink(caller, person);
  }

  /** What importing a roster would do, line by line. */
  @Post('roster/preview')
  @Route('instructor', { answers: 'RosterPreview' })
  @ApiConsumes('multipart/form-data')
  @ApiBody(FILE_FORM)
  @UseInterceptors(UploadedTo(LARGEST_ROSTER))
  async preview(
    @Calling() caller: Caller,
    @UploadedFile() file: Express.Multer.File,
  ): Promise<RosterPreview> {
    const { name, bytes } = await uploadedBytes(file);
    return this.members.previewRoster(caller, bytes, name);
  }

  @Post('roster')
  @Route('instructor', { answers: 'RosterResult', status: 201 })
  @ApiConsumes('multipart/form-data')
  @ApiBody(FILE_FORM)
  @UseInterceptors(UploadedTo(LARGEST_ROSTER))
  async import(@Calling() caller: Caller, @UploadedFile() file: Express.Multer.File): Promise<RosterResult> {
    const { name, bytes } = await uploadedBytes(file);
    return this.members.importRoster(caller, bytes, name);
  }
}
