import { answer } from '@/server/request';

export const POST = (request: Request): Promise<Response> => answer(request, 'draw');
