import { Body, Controller, Delete, Get, Post, Req, Res } from '@nestjs/common';
import { IsEmail, IsString, MaxLength, MinLength } from 'class-validator';
import type { Request, Response } from 'express';
import type { SessionInfo, SignIn, SignUp } from '../api.js';
import { Courses } from '../courses/courses.service.js';
import { Route } from '../platform/access/route.js';
import { Sessions } from './sessions.service.js';

export class SignInBody implements SignIn {
  @IsString({ message: 'Give your address.' }) @MaxLength(200) email: string;
  @IsString({ message: 'Give your password.' }) @MaxLength(200) password: string;
}

export class SignUpBody implements SignUp {
  @IsEmail({}, { message: 'This is not an address that mail could reach.' }) @MaxLength(200) email: string;
  @IsString() @MinLength(1, { message: 'Give your name.' }) @MaxLength(100) name: string;
  @IsString()
  @MinLength(10, { message: 'A password has at least 10 characters.' })
  @MaxLength(200)
  password: string;
}

@Controller()
export class PeopleController {
  constructor(
    private readonly sessions: Sessions,
    private readonly courses: Courses,
  ) {}

  @Get('session')
  @Route('anyone', { answers: 'SessionInfo' })
  async session(@Req() request: Request): Promise<SessionInfo> {
    const person = await this.sessions.personOf(request);
    return { person, courses: person ? await this.courses.of(person) : [] };
  }

  @Post('session')
  @Route('anyone', { takes: 'SignIn', status: 204 })
  async signIn(@Body() body: SignInBody, @Res({ passthrough: true }) response: Response): Promise<void> {
    await this.sessions.open(await this.sessions.signIn(body.email, body.password), response);
  }

  @Post('people')
  @Route('anyone', { takes: 'SignUp', status: 204 })
  async signUp(@Body() body: SignUpBody, @Res({ passthrough: true }) response: Response): Promise<void> {
    await this.sessions.open(await this.sessions.signUp(body.email, body.name, body.password), response);
  }

  @Delete('session')
  @Route('anyone', { status: 204 })
  async signOut(@Req() request: Request, @Res({ passthrough: true }) response: Response): Promise<void> {
    await this.sessions.close(request, response);
  }
}
