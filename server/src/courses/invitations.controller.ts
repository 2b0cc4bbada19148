import { Body, Controller, Delete, Get, Ip, Param, ParseUUIDPipe, Post, Req, Res } from '@nestjs/common';
import { IsEmail, IsIn, IsString, MaxLength, MinLength } from 'class-validator';
import type { Request, Response } from 'express';
import type {
  Created,
  InvitationInfo,
  InvitationShown,
  MadeLink,
  NewInvitation,
  OwnInvitation,
} from '../api/api.js';
import { SetPasswordBody } from '../people/people.dto.js';
import { Sessions } from '../people/sessions.service.js';
import { Calling, SignedIn, type Caller, type Person } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { Invitations } from './invitations.service.js';

const ROLES = ['student', 'assistant', 'instructor'] as const;

export class NewInvitationBody implements NewInvitation {
  @IsEmail({}, { message: 'This is not an address that mail could reach.' }) @MaxLength(200) email: string;
  @IsString() @MinLength(1, { message: 'Give the name of the person.' }) @MaxLength(100) name: string;
  @IsIn(ROLES, { message: `A role is one of ${ROLES.join(', ')}.` }) role: NewInvitation['role'];
}

@Controller()
export class InvitationsController {
  constructor(
    private readonly invitations: Invitations,
    private readonly sessions: Sessions,
  ) {}

  @Get('courses/:course/invitations')
  @Route('instructor', { answers: 'InvitationInfo', list: true })
  list(@Calling() caller: Caller): Promise<InvitationInfo[]> {
    return this.invitations.list(caller);
  }

  @Post('courses/:course/invitations')
  @Route('instructor', { takes: 'NewInvitation', answers: 'MadeLink', status: 201 })
  invite(@Calling() caller: Caller, @Body() body: NewInvitationBody): Promise<MadeLink> {
    return this.invitations.invite(caller, body);
  }

  /** Another link for an invitation; the earlier one no longer works. */
  @Post('courses/:course/invitations/:invitation/link')
  @Route('instructor', { answers: 'MadeLink', status: 201 })
  renew(@Calling() caller: Caller, @Param('invitation', ParseUUIDPipe) id: string): Promise<MadeLink> {
    return this.invitations.renew(caller, id);
  }

  @Delete('courses/:course/invitations/:invitation')
  @Route('instructor', { status: 204 })
  revoke(@Calling() caller: Caller, @Param('invitation', ParseUUIDPipe) id: string): Promise<void> {
    return this.invitations.revoke(caller, id);
  }

  /** What the link of an invitation is for. */
  @Get('invitations/:secret')
  @Route('anyone', { answers: 'InvitationShown' })
  show(@Param('secret') secret: string, @Ip() from: string): Promise<InvitationShown> {
    return this.invitations.show(secret, from);
  }

  /** Joins by the link, with the account that is signed in. */
  @Post('invitations/:secret/accept')
  @Route('person', { answers: 'Created' })
  accept(@SignedIn() person: Person, @Param('secret') secret: string, @Ip() from: string): Promise<Created> {
    return this.invitations.accept(person, secret, from);
  }

  /** Sets the password of an account that the invitation made, joins and signs in. */
  @Post('invitations/:secret/claim')
  @Route('anyone', { takes: 'SetPassword', status: 204 })
  async claim(
    @Param('secret') secret: string,
    @Body() { password }: SetPasswordBody,
    @Ip() from: string,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    await this.sessions.open(await this.invitations.claim(secret, password, from), request, response);
  }

  /** Invitations to the address of the account that is signed in. */
  @Get('own-invitations')
  @Route('person', { answers: 'OwnInvitation', list: true })
  own(@SignedIn() person: Person): Promise<OwnInvitation[]> {
    return this.invitations.toAddress(person);
  }

  @Post('own-invitations/:invitation')
  @Route('person', { answers: 'Created' })
  acceptOwn(@SignedIn() person: Person, @Param('invitation', ParseUUIDPipe) id: string): Promise<Created> {
    return this.invitations.acceptOwn(person, id);
  }

  @Delete('own-invitations/:invitation')
  @Route('person', { status: 204 })
  declineOwn(@SignedIn() person: Person, @Param('invitation', ParseUUIDPipe) id: string): Promise<void> {
    return this.invitations.declineOwn(person, id);
  }
}
