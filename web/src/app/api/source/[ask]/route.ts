import { answerSource } from '@/server/source';

export const POST = async (request: Request, { params }: { params: Promise<{ ask: string }> }): Promise<Response> =>
  answerSource(request, (await params).ask);
