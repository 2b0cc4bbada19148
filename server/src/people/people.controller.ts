import { Body, Controller, Delete, Get, Ip, Param, Post, Put, Req, Res } from '@nestjs/common';
import type { Request, Response } from 'express';
import type { AccountEventInfo, LinkInfo } from '../api/api.js';
import { SignedIn, type Person } from '../platform/access/access.js';
import { Route } from '../platform/access/route.js';
import { Accounts } from './accounts.service.js';
import { ChangePasswordBody, SetPasswordBody, SignInBody, SignUpBody } from './people.dto.js';
import { Links } from './links.service.js';
import { Sessions } from './sessions.service.js';

@Controller()
export class PeopleController {
  constructor(
    private readonly sessions: Sessions,
    private readonly accounts: Accounts,
    private readonly links: Links,
  ) {}

  @Post('session')
  @Route('anyone', { takes: 'SignIn', status: 204 })
  async signIn(
    @Body() body: SignInBody,
    @Ip() address: string,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    const from = { address, knownAs: await this.sessions.knownAs(request) };
    const person = await this.accounts.signIn(body.email, body.password, from);
    await this.sessions.open(person, request, response);
  }

  @Delete('session')
  @Route('anyone', { status: 204 })
  async signOut(@Req() request: Request, @Res({ passthrough: true }) response: Response): Promise<void> {
    await this.sessions.close(request, response);
  }

  /** Signs the person out everywhere. */
  @Delete('sessions')
  @Route('person', { status: 204 })
  async signOutEverywhere(
    @SignedIn() person: Person,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    await this.sessions.closeAll(person, response);
  }

  @Post('people')
  @Route('anyone', { takes: 'SignUp', status: 204 })
  async signUp(
    @Body() body: SignUpBody,
    @Ip() from: string,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    const person = await this.accounts.signUp(body.email, body.name, body.password, from);
    await this.sessions.open(person, request, response);
  }

  /** Sets another password; every other session and every token ends. */
  @Put('password')
  @Route('person', { takes: 'ChangePassword', status: 204 })
  async changePassword(
    @SignedIn() person: Person,
    @Body() { old, password }: ChangePasswordBody,
    @Ip() address: string,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    await this.accounts.changePassword(person, old, password, { address, knownAs: person.id });
    await this.sessions.open(person, request, response);
  }

  /** What happened to the account of the person who asks. */
  @Get('account-events')
  @Route('person', { answers: 'AccountEventInfo', list: true })
  events(@SignedIn() person: Person): Promise<AccountEventInfo[]> {
    return this.accounts.events(person);
  }

  /** Whom a one-time link is for. */
  @Get('password-links/:secret')
  @Route('anyone', { answers: 'LinkInfo' })
  async link(@Param('secret') secret: string, @Ip() from: string): Promise<LinkInfo> {
    const { name, email } = await this.links.personOf(secret, from);
    return { name, email };
  }

  /** Sets the password by a one-time link, and signs in. */
  @Post('password-links/:secret')
  @Route('anyone', { takes: 'SetPassword', status: 204 })
  async setPassword(
    @Param('secret') secret: string,
    @Body() { password }: SetPasswordBody,
    @Ip() from: string,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    await this.sessions.open(await this.links.use(secret, password, from), request, response);
  }
}
